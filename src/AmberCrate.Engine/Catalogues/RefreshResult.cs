using AmberCrate.Core.Problems;

namespace AmberCrate.Engine.Catalogues;

/// <summary>How the refresh of one catalogue ended.</summary>
/// <param name="Catalogue">The catalogue.</param>
/// <param name="State">What the cache now holds of it; null where it was never fetched.</param>
/// <param name="Changed">Whether there was anything new.</param>
/// <param name="PartsRead">How many parts were fetched.</param>
/// <param name="PartsInAll">How many parts the catalogue has.</param>
/// <param name="Problem">Why it failed; null where it did not.</param>
public sealed record RefreshResult(
    RegisteredCatalogue Catalogue, CatalogueState? State, bool Changed, int PartsRead, int PartsInAll, Problem? Problem)
{
    /// <summary>How many bundles were downloaded.</summary>
    public int BundlesRead { get; init; }

    /// <summary>How many bundles that were known are not in the catalogue any more.</summary>
    public int BundlesGone { get; init; }
}
