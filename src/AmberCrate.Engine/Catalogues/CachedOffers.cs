using AmberCrate.Core.Offers;
using AmberCrate.Core.Searching;
using AmberCrate.Core.Values;
using AmberCrate.Engine.Indexing;

namespace AmberCrate.Engine.Catalogues;

/// <summary>What a list of catalogues offers, as planning asks for it.</summary>
/// <param name="cache">The local database.</param>
/// <param name="catalogues">The catalogues, in order of preference.</param>
/// <param name="paused">The catalogues that are not asked for now.</param>
/// <param name="unfetched">Gives the catalogues without known data yet.</param>
/// <param name="forAllUsers">Gives the catalogues for all users, where these are a user's own.</param>
public sealed class CachedOffers(
    CatalogueCache cache,
    IReadOnlyList<CatalogueName> catalogues,
    IReadOnlyList<CatalogueName> paused,
    Func<IReadOnlyList<CatalogueName>> unfetched,
    Func<IReadOnlyList<CatalogueName>> forAllUsers) : IOffers
{
    private const int MostCandidates = 5;

    private readonly Dictionary<AppId, IReadOnlyList<Offer>> _found = [];

    /// <inheritdoc/>
    public IReadOnlyList<CatalogueName> Catalogues => catalogues;

    /// <inheritdoc/>
    public IReadOnlyList<CatalogueName> Paused => paused;

    /// <inheritdoc/>
    public IReadOnlyList<CatalogueName> Unfetched => field ??= unfetched();

    /// <inheritdoc/>
    public IReadOnlyList<CatalogueName> ForAllUsers => field ??= forAllUsers();

    /// <inheritdoc/>
    public void Expect(IEnumerable<AppId> ids, bool everyRelease)
    {
        foreach (var (id, offers) in cache.FindAll(
            [.. ids.Where(id => !_found.ContainsKey(id)).Distinct()], catalogues, everyRelease)) _found.Add(id, offers);
    }

    /// <inheritdoc/>
    public IReadOnlyDictionary<AppId, string> Glance(IReadOnlyCollection<(AppId Id, CatalogueName Catalogue)> apps) =>
        cache.Glance([.. apps.Where(app => catalogues.Contains(app.Catalogue))]);

    /// <inheritdoc/>
    public IReadOnlyList<Offer> Find(AppId id)
    {
        if (!_found.TryGetValue(id, out var offers)) _found.Add(id, offers = cache.Find(id, catalogues));
        return offers;
    }

    /// <inheritdoc/>
    public Offer? LastSeen(AppId id, CatalogueName catalogue) =>
        (paused.Contains(catalogue) ? cache.Find(id, [catalogue]) : Find(id))
            .FirstOrDefault(offer => offer.Catalogue == catalogue);

    /// <inheritdoc/>
    public IReadOnlyList<AppId> Named(string squashed) => cache.Named(squashed, catalogues);

    /// <inheritdoc/>
    public IReadOnlyList<AppId> Closest(string name) => [.. cache
        .Search(IndexQuery.For(SearchQuery.Parse([name]), catalogues, MostCandidates)).Shown.Select(result => result.Id)
        .Concat(Nearest(name))
        .Distinct()
        .Take(MostCandidates)];

    /// <summary>
    /// Ids that are spelled nearly like a name. Quicker than <see cref="Closest"/> where a search has found nothing already.
    /// </summary>
    public IReadOnlyList<AppId> Nearest(string name) => cache.Nearest(name, catalogues, MostCandidates);
}
