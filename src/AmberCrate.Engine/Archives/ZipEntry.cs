using System.Buffers.Binary;
using AmberCrate.Engine.Decoding;
using SharpCompress.Compressors.LZMA;

namespace AmberCrate.Engine.Archives;

/// <summary>
/// An entry of a zip archive's directory. Unpacks the methods that the framework does not know, after PKWARE's APPNOTE 6.3.10
/// (4.3.7, 4.4.5, 5.8).
/// </summary>
/// <param name="Method">How it is packed, as APPNOTE 4.4.5 numbers it.</param>
/// <param name="Modified">The time of the last change by Info-ZIP's extra field; null if it has none.</param>
/// <param name="At">Where its local header begins.</param>
/// <param name="PackedSize">The packed size in bytes.</param>
/// <param name="Size">The size in bytes.</param>
internal sealed record ZipEntry(ushort Method, DateTimeOffset? Modified, long At, long PackedSize, long Size)
{
    private const ushort EndMark = 2;

    /// <summary>The flags of APPNOTE 4.4.4.</summary>
    public ushort Flags { get; init; }

    /// <summary>The checksum of the content.</summary>
    public uint Crc { get; init; }

    /// <summary>The number of the method.</summary>
    public const ushort BZip2 = 12, Lzma = 14;

    private const uint LocalSign = 0x04034b50;
    private const int LocalSize = 30, LzmaStart = 4, LzmaProperties = 5;

    /// <summary>Whether the framework cannot unpack it.</summary>
    public bool IsForeign => Method is BZip2 or Lzma;

    /// <summary>Opens its content.</summary>
    /// <param name="zip">The archive. It stands after the content when that has been read.</param>
    /// <exception cref="InvalidDataException">The archive is damaged.</exception>
    /// <exception cref="Core.Machine.RefusedEntryException">Unpacking would take too much memory.</exception>
    public Stream Open(Stream zip)
    {
        var local = new byte[LocalSize];
        zip.Position = Math.Min(At, zip.Length);
        zip.ReadExactly(local);
        if (BinaryPrimitives.ReadUInt32LittleEndian(local) != LocalSign)
            throw new InvalidDataException("its directory is damaged");
        var packedAt = zip.Position + BinaryPrimitives.ReadUInt16LittleEndian(local.AsSpan(26))
            + BinaryPrimitives.ReadUInt16LittleEndian(local.AsSpan(28));
        if (packedAt > zip.Length || PackedSize > zip.Length - packedAt)
            throw new InvalidDataException("an entry goes on after the end of the file");
        zip.Position = packedAt;
        return Method == BZip2 ? new BZip2Members(new PartStream(zip, PackedSize)) : OpenLzma(zip);
    }

    /// <summary>LZMA has its properties before the data, and these the version of the program that wrote them.</summary>
    private ForeignStream OpenLzma(Stream zip)
    {
        var start = new byte[LzmaStart + LzmaProperties];
        var packed = new PartStream(zip, PackedSize);
        packed.ReadExactly(start);
        if (BinaryPrimitives.ReadUInt16LittleEndian(start.AsSpan(2)) != LzmaProperties)
            throw new InvalidDataException("what it says about its packing cannot be");
        var properties = start[LzmaStart..];
        SevenZipHeader.RequireMemory([new SevenZipCoder(SevenZipReader.Lzma, properties, 0)]);
        var size = (Flags & EndMark) != 0 ? -1 : Size;
        return new ForeignStream(() => LzmaStream.Create(properties, packed, PackedSize - start.Length, size));
    }
}
