using System.Buffers.Binary;

namespace AmberCrate.Engine.Archives;

/// <summary>One step in unpacking a stream of a 7z archive.</summary>
/// <param name="Method">The number of the method, as Methods.txt of the LZMA SDK lists them.</param>
/// <param name="Properties">What the method must know.</param>
/// <param name="Folder">The number of its folder: all steps of a folder are at work together.</param>
internal sealed record SevenZipCoder(ulong Method, byte[] Properties, int Folder)
{
    private const int LargestLzma2Step = 40;

    /// <summary>How much memory it takes, in bytes.</summary>
    /// <exception cref="InvalidDataException">Its properties cannot be.</exception>
    public long Memory => Method switch
    {
        SevenZipReader.Lzma => Properties.Length == 5 ? Number(1) : throw Damaged(),
        SevenZipReader.Lzma2 => Properties is [<= LargestLzma2Step and var step]
            ? step == LargestLzma2Step ? uint.MaxValue : (2L | (long)(step & 1)) << (step / 2 + 11)
            : throw Damaged(),
        SevenZipReader.Ppmd => Properties.Length == 5 && Properties[0] is >= 2 and <= 64 && Number(1) >= 1 << 11
            ? Number(1)
            : throw Damaged(),
        _ => 0,
    };

    private uint Number(int at) => BinaryPrimitives.ReadUInt32LittleEndian(Properties.AsSpan(at));

    private static InvalidDataException Damaged() => new("what it says about its packing cannot be");
}
