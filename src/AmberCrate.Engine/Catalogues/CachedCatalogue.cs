using AmberCrate.Core.Values;

namespace AmberCrate.Engine.Catalogues;

/// <summary>What the cache has of one catalogue before it is refreshed. Parts and bundles are read on demand.</summary>
internal sealed class CachedCatalogue
{
    private readonly CatalogueCache _cache;
    private readonly Lock _guard;
    private readonly Lazy<IReadOnlySet<string>> _parts, _bundles;

    /// <summary>Reads the state of a catalogue.</summary>
    /// <param name="cache">The cache.</param>
    /// <param name="catalogue">The catalogue.</param>
    /// <param name="guard">Held while the cache is used; several downloads ask it.</param>
    public CachedCatalogue(CatalogueCache cache, RegisteredCatalogue catalogue, Lock guard)
    {
        (_cache, _guard, Catalogue) = (cache, guard, catalogue);
        lock (guard) State = cache.StateOf(catalogue);
        _parts = new(() => WithCache(() => cache.KnownParts(catalogue)));
        _bundles = new(() => WithCache(() => cache.KnownBundles(catalogue)));
    }

    /// <summary>The catalogue.</summary>
    public RegisteredCatalogue Catalogue { get; }

    /// <summary>Its data; null where it was never fetched.</summary>
    public CatalogueState? State { get; }

    /// <summary>The keys of its parts.</summary>
    public IReadOnlySet<string> Parts => _parts.Value;

    /// <summary>The digests of its bundles.</summary>
    public IReadOnlySet<string> Bundles => _bundles.Value;

    /// <summary>Lists the parts of another maintainer, each with its layer.</summary>
    public IReadOnlyList<(Sha256Digest Key, int Layer)> ListParts(PartMaintainer maintainer) =>
        WithCache(() => _cache.PartsOf(Catalogue, maintainer));

    private T WithCache<T>(Func<T> read)
    {
        lock (_guard) return read();
    }
}
