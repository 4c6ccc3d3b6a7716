using AmberCrate.Core.Bundles;
using AmberCrate.Core.Values;

namespace AmberCrate.Core.Plans;

/// <summary>The bundle that a plan comes from.</summary>
/// <param name="Name">What the user called it.</param>
/// <param name="Sha256">The digest of its file, as <c>sha256sum</c> computes it.</param>
/// <param name="Layers">The bundles that it builds on, each once, with the digests of their files.</param>
public sealed record PlannedBundle(string Name, Sha256Digest Sha256, IReadOnlyList<(string Name, Sha256Digest Sha256)> Layers)
{
    /// <summary>When the catalogue that carries the bundle was refreshed; null for a file or an address.</summary>
    public DateTimeOffset? Refreshed { get; init; }

    /// <summary>The same in words, such as "2 days ago"; null if <see cref="Refreshed"/> is.</summary>
    public string? Age { get; init; }

    /// <summary>The planned bundle of a bundle that was loaded.</summary>
    public static PlannedBundle FromLayer(string name, BundleLayer top) => new(
        name, top.Sha256, [.. Below(top).Select(layer => (layer.Name, layer.Sha256)).Distinct()]);

    private static IEnumerable<BundleLayer> Below(BundleLayer layer) =>
        layer.Bases.SelectMany(below => Below(below).Append(below));
}
