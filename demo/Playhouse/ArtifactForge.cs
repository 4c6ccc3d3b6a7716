using System.Formats.Tar;
using System.IO.Compression;

namespace AmberCrate.Playhouse;

/// <summary>Packs files in every form that an app card can name. The same files give the same bytes.</summary>
public static class ArtifactForge
{
    private static readonly DateTimeOffset Then = new(2026, 1, 1, 12, 0, 0, TimeSpan.Zero);

    /// <summary>Packs files below one leading folder.</summary>
    public static byte[] Pack(string form, string folder, IReadOnlyList<PackedFile> files) => form switch
    {
        "tar.gz" => Gzip(Tar(folder, files)),
        "tar.zst" => Zstd(Tar(folder, files)),
        "tar.xz" => XzEncoder.Encode(Tar(folder, files)),
        "zip" => Zip(folder, files),
        "executable" => files.First(file => file.IsProgram).Content,
        _ => throw new ArgumentOutOfRangeException(nameof(form), form, "not a form"),
    };

    public static byte[] Gzip(byte[] content)
    {
        using var packed = new MemoryStream();
        using (var gzip = new GZipStream(packed, CompressionLevel.SmallestSize)) gzip.Write(content);
        return packed.ToArray();
    }

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

    public static byte[] Tar(string folder, IEnumerable<PackedFile> files) => Tar(files.Select(file => new UstarTarEntry(TarEntryType.RegularFile, $"{folder}/{file.Path}")
    {
        DataStream = new MemoryStream(file.Content),
        Mode = Mode(file),
        ModificationTime = Then,
    }));

    private static byte[] Zip(string folder, IEnumerable<PackedFile> files)
    {
        const int RegularFile = 0x8000;
        using var packed = new MemoryStream();
        using (var zip = new ZipArchive(packed, ZipArchiveMode.Create, leaveOpen: true))
        {
            foreach (var file in files)
            {
                var entry = zip.CreateEntry($"{folder}/{file.Path}", CompressionLevel.SmallestSize);
                entry.LastWriteTime = Then;
                entry.ExternalAttributes = (RegularFile | (int)Mode(file)) << 16;
                using var stream = entry.Open();
                stream.Write(file.Content);
            }
        }

        return packed.ToArray();
    }

    private static UnixFileMode Mode(PackedFile file) => (UnixFileMode)Convert.ToInt32(file.IsProgram ? "755" : "644", 8);
}
