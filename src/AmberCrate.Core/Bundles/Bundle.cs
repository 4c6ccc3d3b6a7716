namespace AmberCrate.Core.Bundles;

/// <summary>A list of apps, versions and catalogues from which a machine is equipped.</summary>
public sealed record Bundle
{
    /// <summary>The version of the format that this program reads and writes.</summary>
    public const int FormatVersion = 1;

    /// <summary>The ending of a bundle's file name.</summary>
    public const string FileEnding = ".bundle.toml";

    /// <summary>The bundle's name for people; null where the file is silent.</summary>
    public string? Title { get; init; }

    /// <summary>The machine and day it was captured from; null where it was written by hand.</summary>
    public BundleCapture? Captured { get; init; }

    /// <summary>The catalogues it takes apps from.</summary>
    public IReadOnlyList<BundleCatalogue> Catalogues { get; init; } = [];

    /// <summary>The apps, in order.</summary>
    public IReadOnlyList<BundleApp> Apps { get; init; } = [];
}
