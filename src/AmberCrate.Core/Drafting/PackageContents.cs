using AmberCrate.Core.Cards;
using AmberCrate.Core.Values;

namespace AmberCrate.Core.Drafting;

/// <summary>What has been read of a vendor's file.</summary>
public sealed record PackageContents
{
    /// <summary>The file's name.</summary>
    public required string FileName { get; init; }

    /// <summary>How it is packed.</summary>
    public required ArtifactFormat Format { get; init; }

    /// <summary>The digest of the file.</summary>
    public required Sha256Digest Sha256 { get; init; }

    /// <summary>The size of the file, in bytes.</summary>
    public required long Size { get; init; }

    /// <summary>The size of all files once unpacked, in bytes; null where it is not unpacked.</summary>
    public long? UnpackedSize { get; init; }

    /// <summary>How many leading folders are left out.</summary>
    public int StripFolders { get; init; }

    /// <summary>The files, by their paths in the shelf entry, in order.</summary>
    public IReadOnlyList<PackedFile> Files { get; init; } = [];

    /// <summary>The day of the newest file in it; null where that is not known.</summary>
    public DateOnly? Newest { get; init; }

    /// <summary>The desktop entries, by path.</summary>
    public IReadOnlyList<(string Path, string Text)> DesktopEntries { get; init; } = [];

    /// <summary>The metainfo files, by path.</summary>
    public IReadOnlyList<(string Path, string Text)> Metainfo { get; init; } = [];

    /// <summary>The fields of a Debian package's control file; empty for other formats.</summary>
    public IReadOnlyDictionary<string, string> Control { get; init; } = new Dictionary<string, string>();

    /// <summary>The name of a Debian package; null for other formats.</summary>
    public string? PackageName => Control.GetValueOrDefault("Package");

    /// <summary>What a Debian package depends on; empty for other formats.</summary>
    public IReadOnlyList<DebianDependency> Dependencies =>
        [.. DebianDependency.Fields.SelectMany(name => DebianDependency.Parse(Control.GetValueOrDefault(name)))];

    /// <summary>The copyright file of a Debian package; null where it has none, or one that cannot be read.</summary>
    public string? Copyright { get; init; }

    /// <summary>Its programs and shared libraries.</summary>
    public IReadOnlyList<PackedElf> Elves { get; init; } = [];

    /// <summary>Its scripts and modules.</summary>
    public IReadOnlyList<PackedScript> Scripts { get; init; } = [];

    /// <summary>The platform that its programs are made for; null where none gives one.</summary>
    public Platform? Platform { get; init; }

    /// <summary>What could not be read, and why, in words.</summary>
    public IReadOnlyList<string> Unread { get; init; } = [];
}
