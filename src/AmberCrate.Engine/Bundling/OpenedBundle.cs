using AmberCrate.Core.Bundles;
using AmberCrate.Engine.KitFiles;

namespace AmberCrate.Engine.Bundling;

/// <summary>A bundle with all that it builds on, and what it comes to on this machine.</summary>
/// <param name="Name">What the user called it.</param>
/// <param name="Top">The bundle with its layers.</param>
/// <param name="Flat">What it comes to.</param>
public sealed record OpenedBundle(string Name, BundleLayer Top, FlatBundle Flat)
{
    /// <summary>The kit that it is in; null where it is a bundle by itself.</summary>
    public KitFile? Kit { get; init; }
}
