using System.IO.Compression;
using System.Text;
using AmberCrate.Engine.Decoding;

namespace AmberCrate.Engine.Archives;

/// <summary>
/// Reads the entries of a zip archive. Permissions and links are where Info-ZIP puts them: in the upper half of the external
/// attributes.
/// </summary>
internal static class ZipEntries
{
    private const int MaxLinkLength = 4096;
    private const int FileTypeMask = 0xF000, TypeLink = 0xA000, TypeFolder = 0x4000, TypeFile = 0x8000;

    public static IEnumerable<ArchiveEntry> Read(Stream zip)
    {
        var directory = ZipDirectory.Read(zip);
        using var archive = ThirdPartyDecoder.Call(() => new ZipArchive(zip, ZipArchiveMode.Read));
        var number = 0;
        foreach (var entry in ThirdPartyDecoder.Call(() => archive.Entries))
        {
            if (number == directory.Count) throw new InvalidDataException("its directory is damaged");
            var header = directory[number++];
            var modified = header.Modified ?? DosTime(entry);
            var unix = entry.ExternalAttributes >> 16 & 0xFFFF;
            var kind = KindOf(unix & FileTypeMask, entry.FullName);
            var mode = (unix & 0xFFF) == 0 ? DefaultMode(kind) : (UnixFileMode)(unix & 0xFFF);
            if (kind == ArchiveEntryKind.SymbolicLink)
            {
                yield return new ArchiveEntry(entry.FullName, kind, mode, modified, ReadLink(entry, Open(entry)), null);
                continue;
            }

            using var content = kind == ArchiveEntryKind.File ? Open(entry) : null;
            yield return new ArchiveEntry(entry.FullName, kind, mode, modified, null, content);

            Stream Open(ZipArchiveEntry one) => new WholeStream(
                header.IsForeign ? header.Open(zip) : new ForeignStream(one.Open), header.Size, header.Crc);
        }
    }

    /// <summary>The time of the old kind, which says nothing of its zone: it is taken as it is, where this machine
    /// stands.</summary>
    private static DateTimeOffset DosTime(ZipArchiveEntry entry) => new(entry.LastWriteTime.DateTime, TimeSpan.Zero);

    private static ArchiveEntryKind KindOf(int type, string name) => type switch
    {
        TypeLink => ArchiveEntryKind.SymbolicLink,
        TypeFolder => ArchiveEntryKind.Folder,
        0 or TypeFile => name.EndsWith('/') ? ArchiveEntryKind.Folder : ArchiveEntryKind.File,
        _ => ArchiveEntryKind.Special,
    };

    private static UnixFileMode DefaultMode(ArchiveEntryKind kind) =>
        kind == ArchiveEntryKind.Folder ? (UnixFileMode)0x1ED : (UnixFileMode)0x1A4;

    private static string ReadLink(ZipArchiveEntry entry, Stream content)
    {
        using var reader = new StreamReader(content, Encoding.UTF8);
        if (entry.Length > MaxLinkLength) throw new InvalidDataException($"a link of {entry.Length} bytes, \"{entry.FullName}\"");
        return reader.ReadToEnd();
    }
}
