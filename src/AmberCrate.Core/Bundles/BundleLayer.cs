using AmberCrate.Core.Values;

namespace AmberCrate.Core.Bundles;

/// <summary>A bundle with those that it builds on.</summary>
/// <param name="Name">The file or address, as messages name it.</param>
/// <param name="Bundle">What it says itself.</param>
/// <param name="Bases">The bundles that it builds on, in order.</param>
public sealed record BundleLayer(string Name, Bundle Bundle, IReadOnlyList<BundleLayer> Bases)
{
    /// <summary>The digest of its file.</summary>
    public required Sha256Digest Sha256 { get; init; }
}
