namespace AmberCrate.Cli.CommandLine;

/// <summary>What a shell proposes for a value.</summary>
internal enum Completion
{
    /// <summary>Nothing.</summary>
    None,

    /// <summary>Ids of apps that catalogues offer.</summary>
    OfferedApp,

    /// <summary>Ids of installed apps.</summary>
    InstalledApp,

    /// <summary>Names of catalogues.</summary>
    Catalogue,

    /// <summary>Files.</summary>
    File,

    /// <summary>Folders.</summary>
    Folder,

    /// <summary>Words of a fixed set.</summary>
    Word,
}
