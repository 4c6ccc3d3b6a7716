using System.Formats.Tar;

namespace AmberCrate.Engine.Unpacking;

/// <summary>Reads the entries of a tar stream: POSIX ustar and pax, GNU and old.</summary>
internal static class TarEntries
{
    public static IEnumerable<ArchiveEntry> Read(Stream tar)
    {
        using var reader = new TarReader(tar);
        while (reader.GetNextEntry() is { } entry)
        {
            if (entry.EntryType == TarEntryType.GlobalExtendedAttributes) continue;
            yield return new ArchiveEntry(entry.Name, KindOf(entry.EntryType), entry.Mode, entry.ModificationTime, entry.LinkName, entry.DataStream);
        }
    }

    private static ArchiveEntryKind KindOf(TarEntryType type) => type switch
    {
        TarEntryType.RegularFile or TarEntryType.V7RegularFile or TarEntryType.ContiguousFile => ArchiveEntryKind.File,
        TarEntryType.Directory => ArchiveEntryKind.Folder,
        TarEntryType.SymbolicLink => ArchiveEntryKind.SymbolicLink,
        TarEntryType.HardLink => ArchiveEntryKind.HardLink,
        _ => ArchiveEntryKind.Special,
    };
}
