using AmberCrate.Core.Values;

namespace AmberCrate.Core.Bundles;

/// <summary>A catalogue that a bundle takes apps from.</summary>
/// <param name="Name">Its name.</param>
/// <param name="Location">Its folder or address.</param>
public sealed record BundleCatalogue(CatalogueName Name, string Location)
{
    /// <summary>The digest of the root under which it is signed; null where the bundle does not say.</summary>
    public Sha256Digest? Root { get; init; }

    /// <summary>The day of its data when the bundle was sealed; null for a bundle that is not.</summary>
    public DateOnly? Data { get; init; }

    /// <summary>
    /// The digest of what its cards said about the releases of a sealed bundle, see docs/formats/bundle.md; null for a
    /// bundle that is not sealed.
    /// </summary>
    public Sha256Digest? Cards { get; init; }
}
