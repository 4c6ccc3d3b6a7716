using AmberCrate.Core.Bundles;
using AmberCrate.Core.Machine;
using AmberCrate.Core.Pins;
using AmberCrate.Core.Values;
using AmberCrate.Core.Versions;

namespace AmberCrate.Core.Comparing;

/// <summary>An app on one side of a comparison: as a machine has it, or as a bundle wants it.</summary>
/// <param name="Name">Its id, or what a bundle calls it.</param>
public sealed record ComparedApp(string Name)
{
    /// <summary>Its version; null where a bundle leaves it open.</summary>
    public AppVersion? Version { get; init; }

    /// <summary>The line of its release; null where that is not known.</summary>
    public ReleaseLine? Line { get; init; }

    /// <summary>What it follows; null for nothing.</summary>
    public VersionSelector? Follows { get; init; }

    /// <summary>Where it comes from; null where a bundle leaves it open.</summary>
    public CatalogueName? Catalogue { get; init; }

    /// <summary>Its pin; null for none.</summary>
    public Pin? Pin { get; init; }

    /// <summary>What its installer is given.</summary>
    public IReadOnlyList<string> InstallerArguments { get; init; } = [];

    /// <summary>The platform that was requested; null for the machine's own.</summary>
    public Platform? Platform { get; init; }

    /// <summary>The digest of its file; null where that is open.</summary>
    public Sha256Digest? Sha256 { get; init; }

    /// <summary>Whether it is there because another app needs it.</summary>
    public bool IsDependency { get; init; }

    /// <summary>What of it is damaged on the disk; null for nothing, or where nobody looked.</summary>
    public string? Damage { get; init; }

    /// <summary>An installed app.</summary>
    /// <param name="app">The app.</param>
    /// <param name="pin">Its pin; null for none.</param>
    /// <param name="damage">What of it is damaged; null for nothing.</param>
    public static ComparedApp FromInstalled(InstalledApp app, Pin? pin, string? damage) => new(app.Id.Text)
    {
        Version = app.Version, Line = app.Line, Follows = app.Follows, Catalogue = app.Catalogue, Pin = pin,
        InstallerArguments = app.InstallerArguments, Platform = app.Platform, Sha256 = app.Sha256,
        IsDependency = app.IsDependency, Damage = damage,
    };

    /// <summary>An entry of a bundle.</summary>
    public static ComparedApp FromBundle(BundleApp app) => new(app.Reference.Name)
    {
        Version = app.Version, Follows = app.Reference.Selector, Catalogue = app.Reference.Catalogue, Pin = app.Pin,
        InstallerArguments = app.InstallerArguments, Platform = app.Platform, Sha256 = app.Sha256,
        IsDependency = app.IsDependency,
    };
}
