using System.Formats.Tar;
using System.IO.Compression;
using System.Text;
using SharpCompress.Compressors.BZip2;

namespace AmberCrate.Playhouse;

/// <summary>Packs files in every format that an app card can name. The same files give the same bytes.</summary>
public static class ArtifactForge
{
    private const uint RegularFile = 0x8000;
    private static readonly DateTimeOffset Then = new(2026, 1, 1, 12, 0, 0, TimeSpan.Zero);

    /// <summary>Packs files below one leading folder.</summary>
    public static byte[] Pack(string format, string folder, IReadOnlyList<PackedFile> files) => format switch
    {
        "tar.gz" => Gzip(Tar(folder, files)),
        "tar.zst" => Zstd(Tar(folder, files)),
        "tar.xz" => XzEncoder.Encode(Tar(folder, files)),
        "tar" => Tar(folder, files),
        "tar.bz2" => Bzip2(Tar(folder, files)),
        "zip" => Zip(folder, files),
        "7z" =>
            SevenZipForge.Pack(
                [.. files.Select(file => ($"{folder}/{file.Path}", RegularFile | (uint)Mode(file), file.Content))]),
        "deb" => Deb(Gzip(Tar([])), XzEncoder.Encode(Tar($"./{folder}", files))),
        "executable" => files.First(file => file.IsProgram).Content,
        _ => throw new ArgumentOutOfRangeException(nameof(format), format, "not a format"),
    };

    public static byte[] Gzip(byte[] content)
    {
        using var packed = new MemoryStream();
        using (var gzip = new GZipStream(packed, CompressionLevel.SmallestSize)) gzip.Write(content);
        return packed.ToArray();
    }

    public static byte[] Bzip2(byte[] content)
    {
        using var packed = new MemoryStream();
        using (var bzip2 = BZip2Stream.Create(
            packed,
            SharpCompress.Compressors.CompressionMode.Compress,
            decompressConcatenated: false,
            leaveOpen: true)) bzip2.Write(content);
        return packed.ToArray();
    }

    /// <summary>A Debian package, after deb(5).</summary>
    /// <param name="control">Its control archive, compressed with gzip.</param>
    /// <param name="data">Its data archive, compressed with xz.</param>
    public static byte[] Deb(byte[] control, byte[] data) =>
        [
            .. "!<arch>\n"u8, .. Member("debian-binary", Encoding.ASCII.GetBytes("2.0\n")),
            .. Member("control.tar.gz", control), .. Member("data.tar.xz", data),
        ];

    /// <summary>A member of an ar archive.</summary>
    public static byte[] Member(string name, byte[] content) =>
        [
            .. Encoding.ASCII.GetBytes($"{name,-16}{0,-12}{0,-6}{0,-6}{"100644",-8}{content.Length,-10}`\n"), .. content,
            .. content.Length % 2 == 0 ? Array.Empty<byte>() : [(byte)'\n'],
        ];

    public static byte[] Zstd(byte[] content)
    {
        using var compressor = new ZstdSharp.Compressor(10);
        return compressor.Wrap(content).ToArray();
    }

    /// <summary>A tar archive of entries made by the caller, for those that no honest vendor would make.</summary>
    public static byte[] Tar(IEnumerable<TarEntry> entries)
    {
        using var packed = new MemoryStream();
        using (var tar = new TarWriter(packed, TarEntryFormat.Pax, leaveOpen: true))
        {
            foreach (var entry in entries) tar.WriteEntry(entry);
        }

        return packed.ToArray();
    }

    public static byte[] Tar(string folder, IEnumerable<PackedFile> files) =>
        Tar(files.Select(file => new UstarTarEntry(TarEntryType.RegularFile, $"{folder}/{file.Path}")
        {
            DataStream = new MemoryStream(file.Content),
            Mode = Mode(file),
            ModificationTime = Then,
        }));

    private static byte[] Zip(string folder, IEnumerable<PackedFile> files)
    {
        using var packed = new MemoryStream();
        using (var zip = new ZipArchive(packed, ZipArchiveMode.Create, leaveOpen: true))
        {
            foreach (var file in files)
            {
                var entry = zip.CreateEntry($"{folder}/{file.Path}", CompressionLevel.SmallestSize);
                entry.LastWriteTime = Then;
                entry.ExternalAttributes = ((int)RegularFile | (int)Mode(file)) << 16;
                using var stream = entry.Open();
                stream.Write(file.Content);
            }
        }

        return packed.ToArray();
    }

    private static UnixFileMode Mode(PackedFile file) => (UnixFileMode)Convert.ToInt32(file.IsProgram ? "755" : "644", 8);
}
