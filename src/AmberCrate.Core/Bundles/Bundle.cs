namespace AmberCrate.Core.Bundles;

/// <summary>A list of apps, versions and catalogues to equip a machine from.</summary>
public sealed record Bundle
{
    /// <summary>The version of the format that this program reads and writes.</summary>
    public const int FormatVersion = 1;

    /// <summary>The ending of a bundle's file name.</summary>
    public const string FileEnding = ".bundle.toml";

    /// <summary>The bundle's name for people; null where the file is silent.</summary>
    public string? Title { get; init; }

    /// <summary>The bundles that it builds on, in order.</summary>
    public IReadOnlyList<BundleBase> BuildsOn { get; init; } = [];

    /// <summary>The apps that it takes out of those.</summary>
    public IReadOnlyList<BundleDrop> Drops { get; init; } = [];

    /// <summary>The machines that it is for; null for all.</summary>
    public MachineMatch? When { get; init; }

    /// <summary>The day on which every version and digest of it was fixed; null where that is not so.</summary>
    public DateOnly? Sealed { get; init; }

    /// <summary>The machine and day it was captured from; null where it was written by hand.</summary>
    public BundleCapture? Captured { get; init; }

    /// <summary>The catalogues it takes apps from.</summary>
    public IReadOnlyList<BundleCatalogue> Catalogues { get; init; } = [];

    /// <summary>The apps, in order.</summary>
    public IReadOnlyList<BundleApp> Apps { get; init; } = [];

    /// <summary>What was on the machine and cannot be installed from it.</summary>
    public IReadOnlyList<LeftBehind> LeftBehind { get; init; } = [];
}
