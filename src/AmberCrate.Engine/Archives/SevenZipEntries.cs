using SharpCompress.Archives.SevenZip;
using SharpCompress.Common;
using SharpCompress.Readers;

namespace AmberCrate.Engine.Archives;

/// <summary>Reads the entries of a 7z archive. Permissions and links are where the programs for Unix put them: in the upper half of the attributes.</summary>
internal static class SevenZipEntries
{
    private const int MaxLinkLength = 4096;
    private const int HasUnixMode = 0x8000, FileTypeMask = 0xF000, TypeLink = 0xA000, TypeFolder = 0x4000, TypeFile = 0x8000;

    public static IEnumerable<ArchiveEntry> Read(Stream archive)
    {
        var attributes = SevenZipAttributes.Read(archive);
        archive.Position = 0;
        using var seven = SevenZipArchive.OpenArchive(archive, new ReaderOptions { LeaveStreamOpen = true });
        using var reader = seven.ExtractAllEntries();
        while (reader.MoveToNextEntry())
        {
            var entry = reader.Entry;
            if (entry.IsEncrypted) throw new InvalidDataException("the archive is encrypted");
            var unix = attributes.GetValueOrDefault(entry.Key ?? "") is var bits && (bits & HasUnixMode) != 0 ? (int)(bits >> 16) : 0;
            var kind = entry.IsDirectory ? ArchiveEntryKind.Folder : (unix & FileTypeMask) switch
            {
                0 or TypeFile => ArchiveEntryKind.File,
                TypeLink => ArchiveEntryKind.SymbolicLink,
                TypeFolder => ArchiveEntryKind.Folder,
                _ => ArchiveEntryKind.Special,
            };
            var mode = (UnixFileMode)((unix & 0xFFF) != 0 ? unix & 0xFFF : kind == ArchiveEntryKind.Folder ? 0x1ED : 0x1A4);
            using var content = kind is ArchiveEntryKind.File or ArchiveEntryKind.SymbolicLink && entry.Size > 0 ? reader.OpenEntryStream() : null;
            var link = kind == ArchiveEntryKind.SymbolicLink ? ReadLink(content, entry) : null;
            yield return new ArchiveEntry(entry.Key ?? "", kind, mode, entry.LastModifiedTime is { } time ? new DateTimeOffset(time) : DateTimeOffset.UnixEpoch, link, link is null ? content : null);
        }
    }

    private static string ReadLink(Stream? content, IEntry entry)
    {
        if (entry.Size > MaxLinkLength) throw new InvalidDataException($"a link of {entry.Size} bytes, \"{entry.Key}\"");
        using var reader = new StreamReader(content ?? Stream.Null);
        return reader.ReadToEnd();
    }
}
