using AmberCrate.Core.Cards;
using AmberCrate.Core.Catalogues;
using AmberCrate.Core.Searching;
using AmberCrate.Core.Values;
using AmberCrate.Engine.Catalogues;
using AmberCrate.Engine.Fetching;
using AmberCrate.Engine.Indexing;
using AmberCrate.Engine.Layout;
using AmberCrate.Engine.Publishing;

namespace AmberCrate.SampleCatalogue;

/// <summary>A made catalogue, published, refreshed into a cache, and ready to be searched.</summary>
public sealed class SearchStage : IDisposable
{
    private static readonly CatalogueName Name = CatalogueName.Parse("repertoire");
    private readonly CatalogueCache _cache;

    /// <summary>Publishes cards and takes them over.</summary>
    /// <param name="cards">The cards.</param>
    /// <param name="folder">An empty folder for both.</param>
    /// <param name="purposes">The catalogue's own purposes; null for none.</param>
    /// <param name="popularity">How many machines have its apps; null where nobody has counted.</param>
    public SearchStage(
        IEnumerable<AppCard> cards, string folder, IReadOnlyList<Purpose>? purposes = null, Popularity? popularity = null)
    {
        var site = Path.Combine(folder, "site");
        CataloguePublisher.Publish(
            new CatalogueContent(new CatalogueSettings("Sample catalogue") { Purposes = purposes ?? [] }, cards)
            {
                Popularity = popularity,
            }, site, full: true, null, "targets", default);
        _cache = CatalogueCache.Open(MachineLayout.Under(Path.Combine(folder, "root")), create: true);
        using var network = new HttpSource(TimeSpan.FromSeconds(30));
        var refresh = new CatalogueRefresh(
            _cache, new CatalogueSources(new SchemeSource(new FileSource(), network)), null, Path.Combine(folder, "incoming"),
            TimeProvider.System);
        if (refresh.RunAsync([new RegisteredCatalogue(Name, site) { Trust = CatalogueTrust.NotSigned }], null, default)
            .GetAwaiter()
            .GetResult()[0].Problem is { } problem) throw problem.ToException();
    }

    /// <summary>The ids that a search finds, the best first.</summary>
    public IReadOnlyList<string> Search(string words) => [.. Find(words).Shown.Select(result => result.Id.Text)];

    /// <summary>What a search finds.</summary>
    /// <param name="words">What a person types.</param>
    /// <param name="limit">How many are wanted at most.</param>
    /// <param name="languages">The languages of the person besides English.</param>
    public SearchResults Find(string words, int limit = 20, IReadOnlyList<string>? languages = null) =>
        _cache.Search(IndexQuery.For(SearchQuery.Parse([words]), [Name], limit) with { Languages = languages ?? [] });

    /// <summary>What the catalogue offers, with nothing read yet.</summary>
    public CachedOffers Offers() => new(_cache, [Name], [], () => [], () => []);

    /// <inheritdoc/>
    public void Dispose() => _cache.Dispose();
}
