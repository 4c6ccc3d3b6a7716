namespace AmberCrate.Engine.Archives;

/// <summary>What an entry of an archive is.</summary>
public enum ArchiveEntryKind
{
    /// <summary>A file.</summary>
    File,

    /// <summary>A folder.</summary>
    Folder,

    /// <summary>A symbolic link.</summary>
    SymbolicLink,

    /// <summary>A second name for a file that came before.</summary>
    HardLink,

    /// <summary>Anything else: a device, a socket, a pipe.</summary>
    Special,
}
