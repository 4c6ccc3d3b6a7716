using AmberCrate.Engine.Decoding;
using SharpCompress.Archives.SevenZip;
using SharpCompress.Common.SevenZip;
using SharpCompress.Readers;

namespace AmberCrate.Engine.Archives;

/// <summary>
/// Reads the entries of a 7z archive. Permissions and links are where the programs for Unix put them: in the upper half of the
/// attributes.
/// </summary>
internal static class SevenZipEntries
{
    private const int MaxLinkLength = 4096;
    private const uint HasUnixMode = 0x8000, FileTypeMask = 0xF000, TypeLink = 0xA000, TypeFolder = 0x4000, TypeFile = 0x8000,
        ModeMask = 0xFFF;
    private const UnixFileMode FolderMode = (UnixFileMode)0x1ED, FileMode = (UnixFileMode)0x1A4;

    public static IEnumerable<ArchiveEntry> Read(Stream archive)
    {
        SevenZipHeader.Require(archive);
        using var seven = ThirdPartyDecoder.Call(
            () => SevenZipArchive.OpenArchive(archive, new ReaderOptions { LeaveStreamOpen = true }));
        using var reader = ThirdPartyDecoder.Call(seven.ExtractAllEntries);
        while (ThirdPartyDecoder.Call(reader.MoveToNextEntry))
        {
            var entry = (SevenZipEntry)reader.Entry;
            if (entry.IsEncrypted) throw new UnsupportedArchiveException("it is encrypted");
            var unix = UnixModeOf(entry);
            var kind = entry.IsDirectory ? ArchiveEntryKind.Folder : KindOf(unix & FileTypeMask);
            var mode = (unix & ModeMask) != 0
                ? (UnixFileMode)(unix & ModeMask)
                : kind == ArchiveEntryKind.Folder ? FolderMode : FileMode;
            var hasContent = kind is ArchiveEntryKind.File or ArchiveEntryKind.SymbolicLink && entry.Size > 0;
            using var content = hasContent ? new ForeignStream(reader.OpenEntryStream) : null;
            var link = kind == ArchiveEntryKind.SymbolicLink ? ReadLink(content, entry) : null;
            var modified =
                ThirdPartyDecoder.Call(() =>
                    entry.LastModifiedTime is { } time ? new DateTimeOffset(time) : DateTimeOffset.UnixEpoch);
            yield return new ArchiveEntry(entry.Key ?? "", kind, mode, modified, link, link is null ? content : null);
        }
    }

    private static uint UnixModeOf(SevenZipEntry entry) =>
        unchecked((uint)(entry.ExtendedAttrib ?? 0)) is var bits && (bits & HasUnixMode) != 0 ? bits >> 16 : 0;

    private static ArchiveEntryKind KindOf(uint type) => type switch
    {
        0 or TypeFile => ArchiveEntryKind.File,
        TypeLink => ArchiveEntryKind.SymbolicLink,
        TypeFolder => ArchiveEntryKind.Folder,
        _ => ArchiveEntryKind.Special,
    };

    private static string ReadLink(Stream? content, SevenZipEntry entry)
    {
        if (entry.Size > MaxLinkLength) throw new InvalidDataException($"a link of {entry.Size} bytes, \"{entry.Key}\"");
        using var reader = new StreamReader(content ?? Stream.Null);
        return reader.ReadToEnd();
    }
}
