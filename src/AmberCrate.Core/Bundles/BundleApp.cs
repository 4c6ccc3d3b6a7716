using AmberCrate.Core.Pins;
using AmberCrate.Core.Values;
using AmberCrate.Core.Versions;

namespace AmberCrate.Core.Bundles;

/// <summary>One app of a bundle.</summary>
/// <param name="Reference">What is requested; its selector is remembered on the machine.</param>
/// <param name="Version">The exact version to be there; null for the newest that the reference accepts.</param>
public sealed record BundleApp(AppReference Reference, AppVersion? Version)
{
    /// <summary>What its installer is given, beside what its card says.</summary>
    public IReadOnlyList<string> InstallerArguments { get; init; } = [];

    /// <summary>The platform that was requested; null for that of the machine.</summary>
    public Platform? Platform { get; init; }

    /// <summary>The pin that the app gets; null for none.</summary>
    public Pin? Pin { get; init; }

    /// <summary>The digest that its artifact must have; null for the catalogue's own.</summary>
    public Sha256Digest? Sha256 { get; init; }

    /// <summary>Whether it is there because another app needs it.</summary>
    public bool IsDependency { get; init; }

    /// <summary>Whether someone else had put it on the machine that the bundle was captured from.</summary>
    public bool IsObserved { get; init; }

    /// <summary>The machines that the entry is for; null for all that the bundle is for.</summary>
    public MachineMatch? When { get; init; }

    /// <summary>The line of the file, from 1; 0 where it comes from none.</summary>
    public int Line { get; init; }
}
