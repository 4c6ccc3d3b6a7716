using System.IO.Compression;
using AmberCrate.Core.Cards;
using AmberCrate.Engine.Decoding;
using SharpCompress.Compressors.Xz;

namespace AmberCrate.Engine.Archives;

/// <summary>Every format of artifact that can be unpacked.</summary>
internal static class ArchiveFormats
{
    private static readonly FileSignature
        GzipFile = new("a gzip file", [0x1F, 0x8B]),
        ZstandardFile = new("a Zstandard file", [0x28, 0xB5, 0x2F, 0xFD]),
        XzFile = new("an xz file", [0xFD, (byte)'7', (byte)'z', (byte)'X', (byte)'Z', 0]),
        BZip2File = new("a bzip2 file", [(byte)'B', (byte)'Z', (byte)'h']);

    /// <summary>The formats.</summary>
    public static IReadOnlyList<IArchiveFormat> All { get; } =
    [
        new TarFormat(
            ArtifactFormat.Tar, new FileSignature("a tar archive", [.. "ustar"u8]) { At = FileSignature.TarMagic },
            packed => packed),
        new TarFormat(ArtifactFormat.TarGz, GzipFile, Gzip),
        new TarFormat(ArtifactFormat.TarZst, ZstandardFile, Zstandard),
        new TarFormat(ArtifactFormat.TarXz, XzFile, Xz),
        new TarFormat(ArtifactFormat.TarBz2, BZip2File, BZip2),
        new CompressedProgramFormat(ArtifactFormat.ProgramGz, GzipFile, Gzip),
        new CompressedProgramFormat(ArtifactFormat.ProgramZst, ZstandardFile, Zstandard),
        new CompressedProgramFormat(ArtifactFormat.ProgramXz, XzFile, Xz),
        new CompressedProgramFormat(ArtifactFormat.ProgramBz2, BZip2File, BZip2),
        new ZipFormat(),
        new SevenZipFormat(),
        new DebFormat(),
        new AppImageFormat(),
        new SingleFileFormat(ArtifactFormat.Executable, isProgram: true),
        new SingleFileFormat(ArtifactFormat.File, isProgram: false),
        new InstallerFormat(),
    ];

    /// <summary>What unpacks a format.</summary>
    /// <exception cref="NotSupportedException">There is none, which is a mistake of this program.</exception>
    public static IArchiveFormat Find(ArtifactFormat format) =>
        All.FirstOrDefault(one => one.Format == format) ?? throw new NotSupportedException($"{format} has no reader");

    /// <summary>Opens the stream of a tar archive within what compresses it.</summary>
    /// <exception cref="NotSupportedException">The format is not one of tar archives.</exception>
    public static Stream Decompress(ArtifactFormat format, Stream packed) =>
        Find(format) is TarFormat tar
            ? tar.Decompress(packed)
            : throw new NotSupportedException($"{format} is not a tar archive");

    /// <summary>The archive and the program that a compressed file can be; null if it is not compressed.</summary>
    /// <param name="start">The beginning of the file.</param>
    public static (ArtifactFormat Archive, ArtifactFormat Program)? FindCompression(ReadOnlySpan<byte> start)
    {
        foreach (var program in All.OfType<CompressedProgramFormat>())
        {
            if (program.Signature!.IsIn(start))
                return (All.OfType<TarFormat>().First(tar => tar.Signature == program.Signature).Format, program.Format);
        }

        return null;
    }

    private static GZipStream Gzip(Stream packed) => new(packed, CompressionMode.Decompress);

    private static Stream Zstandard(Stream packed) =>
        LibzstdStream.IsAvailable
            ? new LibzstdStream(packed)
            : new ForeignStream(() => new ZstdSharp.DecompressionStream(packed));

    private static Stream Xz(Stream packed) =>
        LiblzmaStream.IsAvailable ? new LiblzmaStream(packed) : new ForeignStream(() => new XZStream(packed));

    private static BZip2Members BZip2(Stream packed) => new(packed);
}
