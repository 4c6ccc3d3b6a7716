using AmberCrate.Core.Values;

namespace AmberCrate.Core.Cards;

/// <summary>A file that delivers a release on one platform.</summary>
public sealed record Artifact
{
    /// <summary>The name of the launcher that is put on the shelf beside an AppImage, for commands to name.</summary>
    public const string LauncherName = "start";

    /// <summary>The platform on which it runs.</summary>
    public required Platform Platform { get; init; }

    /// <summary>Where it lies.</summary>
    public required ArtifactLocation Location { get; init; }

    /// <summary>Where else the same file lies, in the order of trying.</summary>
    public IReadOnlyList<ArtifactLocation> Mirrors { get; init; } = [];

    /// <summary>How it is packed.</summary>
    public required ArtifactFormat Format { get; init; }

    /// <summary>The digest of the file as downloaded.</summary>
    public required Sha256Digest Sha256 { get; init; }

    /// <summary>The size of the file as downloaded, in bytes.</summary>
    public required long DownloadSize { get; init; }

    /// <summary>The size of all files once unpacked, in bytes; null where the card is silent.</summary>
    public long? InstalledSize { get; init; }

    /// <summary>How many leading folders of the archive are left out when unpacking.</summary>
    public int StripFolders { get; init; }

    /// <summary>For a single file: its name on the shelf; null for the location's last part.</summary>
    public FileName? FileName { get; init; }

    /// <summary>For an installer: how it is run.</summary>
    public InstallerRules? Installer { get; init; }

    /// <summary>Whether it becomes one file on the shelf: the artifact itself, or the program that is compressed in it.</summary>
    public bool IsSingleFile => IsCompressedProgram
        || Format is ArtifactFormat.Executable or ArtifactFormat.AppImage or ArtifactFormat.File;

    /// <summary>The name that a single file has on the shelf: without the ending of what compresses it.</summary>
    public string ShelfFileName =>
        FileName?.Text ?? (IsCompressedProgram ? WithoutEnding(Location.FileName) : Location.FileName);

    private bool IsCompressedProgram =>
        Format is ArtifactFormat.ProgramGz or ArtifactFormat.ProgramZst or ArtifactFormat.ProgramXz or ArtifactFormat.ProgramBz2;

    private string WithoutEnding(string name) =>
        $".{CardWords.Formats.WordOf(Format)}" is var ending && name.EndsWith(ending, StringComparison.OrdinalIgnoreCase)
            ? name[..^ending.Length]
            : name;
}
