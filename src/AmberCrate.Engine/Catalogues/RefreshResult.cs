using AmberCrate.Core.Problems;

namespace AmberCrate.Engine.Catalogues;

/// <summary>How the refresh of one catalogue ended.</summary>
/// <param name="Catalogue">The catalogue.</param>
/// <param name="State">What the cache now holds of it; null where it was never fetched.</param>
public sealed record RefreshResult(RegisteredCatalogue Catalogue, CatalogueState? State)
{
    /// <summary>Whether there was anything new.</summary>
    public bool Changed { get; init; }

    /// <summary>How many parts were fetched.</summary>
    public int PartsRead { get; init; }

    /// <summary>How many parts the catalogue has.</summary>
    public int PartsInAll { get; init; }

    /// <summary>Why it failed; null where it did not.</summary>
    public Problem? Problem { get; init; }

    /// <summary>How many bundles were downloaded.</summary>
    public int BundlesRead { get; init; }

    /// <summary>How many bundles that were known are not in the catalogue any more.</summary>
    public int BundlesGone { get; init; }
}
