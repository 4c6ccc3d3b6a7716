using System.Buffers.Binary;
using AmberCrate.Core.Machine;
using AmberCrate.Engine.Decoding;
using SharpCompress.Compressors.LZMA;

namespace AmberCrate.Engine.Archives;

/// <summary>
/// Looks at the header of a 7z archive before the decoder does: whatever it counts must fit into its own length, and what
/// decoding takes in memory into a limit. After 7zFormat.txt and Methods.txt of the LZMA SDK (public domain).
/// </summary>
internal static class SevenZipHeader
{
    /// <summary>How much memory a decoder may take: more than the strongest setting that is in use asks for.</summary>
    private const long MostMemory = 192 << 20;

    private const int StartSize = 32, MostHeader = 48 << 20, OffsetAt = 12, SizeAt = 20, MostNested = 4;
    private const byte PlainHeader = 0x01, PackedHeader = 0x17;

    /// <summary>Checks an archive. It stands where it stood afterwards.</summary>
    /// <exception cref="InvalidDataException">It claims what cannot be.</exception>
    /// <exception cref="RefusedEntryException">It has too many entries.</exception>
    /// <exception cref="UnsupportedArchiveException">It cannot be unpacked here.</exception>
    public static void Require(Stream archive)
    {
        var before = archive.Position;
        var start = new byte[StartSize];
        archive.ReadExactly(start);
        var offset = BinaryPrimitives.ReadInt64LittleEndian(start.AsSpan(OffsetAt));
        var size = BinaryPrimitives.ReadInt64LittleEndian(start.AsSpan(SizeAt));
        var header = Bytes(archive, before, offset, size);
        for (var depth = 0; header.Length > 0 && header[0] == PackedHeader; depth++)
        {
            if (depth == MostNested) throw new InvalidDataException("its header is packed again and again");
            header = Unpacked(archive, before, header);
        }

        if (header.Length > 0 && header[0] == PlainHeader) RequireEntries(new SevenZipReader(header, 1));
        archive.Position = before;
    }

    private static byte[] Bytes(Stream archive, long before, long offset, long size)
    {
        var left = archive.Length - before - StartSize;
        if (offset < 0 || size is < 0 or > MostHeader || offset > left || size > left - offset)
            throw new InvalidDataException($"its header of {size} bytes is not inside the file");
        var bytes = new byte[size];
        archive.Position = before + StartSize + offset;
        archive.ReadExactly(bytes);
        return bytes;
    }

    private static void RequireEntries(SevenZipReader reader)
    {
        var id = reader.Next();
        if (id == SevenZipReader.ArchiveProperties)
        {
            while (reader.Next() != 0) reader.Skip(reader.Count());
            id = reader.Next();
        }

        if (id == SevenZipReader.AdditionalStreams)
        {
            reader.Streams();
            id = reader.Next();
        }

        if (id == SevenZipReader.MainStreams)
        {
            RequireCoders(reader.Streams().Coders);
            id = reader.Next();
        }

        if (id != SevenZipReader.Files) return;
        var entries = reader.Count();
        if (entries > UnpackingBudget.MostEntries)
            throw new RefusedEntryException($"more than {UnpackingBudget.MostEntries} entries");
    }

    /// <summary>Unpacks a header that is packed itself: one stream of one coder, as all programs write it.</summary>
    private static byte[] Unpacked(Stream archive, long before, byte[] header)
    {
        var streams = new SevenZipReader(header, 1).Streams();
        RequireCoders(streams.Coders);
        if (streams.Coders is not [var coder] || streams.PackedSizes is not [var packed]
            || streams.UnpackedSizes is not [var size])
            throw new UnsupportedArchiveException("its header is packed in a way that is not supported here");
        if (size > MostHeader) throw new InvalidDataException($"its header claims {size} bytes");
        var bytes = Bytes(archive, before, streams.PackedAt, packed);
        if (coder.Method == SevenZipReader.Copy) return bytes;
        if (coder.Method != SevenZipReader.Lzma && coder.Method != SevenZipReader.Lzma2)
            throw new UnsupportedArchiveException("its header is packed in a way that is not supported here");
        using var lzma = ThirdPartyDecoder.Call(() => LzmaStream.Create(coder.Properties, new MemoryStream(bytes), packed, size));
        using var content = new ForeignStream(() => lzma);
        var unpacked = new byte[size];
        content.ReadExactly(unpacked);
        return unpacked;
    }

    private static void RequireCoders(IReadOnlyList<SevenZipCoder> coders)
    {
        foreach (var coder in coders) RequireKnown(coder);
        RequireMemory(coders);
    }

    /// <summary>Refuses data that take much memory to unpack.</summary>
    /// <param name="coders">What unpacks them.</param>
    /// <exception cref="RefusedEntryException">It takes more than any setting in use asks for.</exception>
    public static void RequireMemory(IReadOnlyList<SevenZipCoder> coders)
    {
        var memory = coders.GroupBy(coder => coder.Folder)
            .Select(folder => folder.Sum(coder => coder.Memory)).DefaultIfEmpty().Max();
        if (memory > MostMemory) throw new RefusedEntryException($"data that take {memory >> 20} MiB of memory to unpack");
    }

    private static void RequireKnown(SevenZipCoder coder)
    {
        if (coder.Method == SevenZipReader.Aes) throw new UnsupportedArchiveException("it is encrypted");
        if (!SevenZipReader.Known.Contains(coder.Method))
            throw new UnsupportedArchiveException(coder.Method == SevenZipReader.Deflate64
                ? "it is packed with Deflate64, which is not supported here"
                : $"it is packed with method {coder.Method:x}, which is not supported here");
    }
}
