namespace AmberCrate.Engine.Indexing;

/// <summary>How the lines of cards are compressed in the cache: a third of their size, and quickly undone.</summary>
internal static class CardCompression
{
    private const int Level = 1;
    private const ulong MostBytes = 256 << 20;

    [ThreadStatic]
    private static ZstdSharp.Compressor? _compressor;

    [ThreadStatic]
    private static ZstdSharp.Decompressor? _decompressor;

    /// <summary>Compresses a line.</summary>
    public static byte[] Pack(ReadOnlySpan<byte> line) => (_compressor ??= new ZstdSharp.Compressor(Level)).Wrap(line).ToArray();

    /// <summary>Decompresses a line.</summary>
    /// <exception cref="InvalidDataException">These are not the bytes of one.</exception>
    public static byte[] Unpack(ReadOnlySpan<byte> packed)
    {
        try
        {
            var size = ZstdSharp.Decompressor.GetDecompressedSize(packed);
            var line = size <= MostBytes
                ? GC.AllocateUninitializedArray<byte>((int)size)
                : throw new InvalidDataException("a card in the catalogue cache is damaged");
            return (_decompressor ??= new ZstdSharp.Decompressor()).Unwrap(packed, line) == line.Length
                ? line
                : throw new InvalidDataException("a card in the catalogue cache is not whole");
        }
        catch (ZstdSharp.ZstdException fault)
        {
            throw new InvalidDataException($"a card in the catalogue cache cannot be decompressed: {fault.Message}", fault);
        }
    }
}
