using AmberCrate.Core.Problems;

namespace AmberCrate.Engine.Catalogues;

/// <summary>What came of fetching one catalogue.</summary>
/// <param name="Known">What the cache had of it before.</param>
internal abstract record FetchedCatalogue(CachedCatalogue Known)
{
    /// <summary>It could not be fetched or verified.</summary>
    public sealed record Failed(CachedCatalogue Known, Problem Problem) : FetchedCatalogue(Known);

    /// <summary>Its entry document is still the cached one.</summary>
    public sealed record Unchanged(CachedCatalogue Known) : FetchedCatalogue(Known);

    /// <summary>All that is new of it is here, verified.</summary>
    /// <param name="Known">What the cache had of it before.</param>
    /// <param name="Snapshot">The catalogue as it is now.</param>
    /// <param name="Bundles">The text of each new bundle, by its digest.</param>
    /// <param name="ReadPart">Reads the bytes of a new part. May be called from several threads.</param>
    public sealed record Changed(
        CachedCatalogue Known, CatalogueSnapshot Snapshot, IReadOnlyDictionary<string, byte[]> Bundles,
        Func<PartContent, byte[]> ReadPart) : FetchedCatalogue(Known);
}
