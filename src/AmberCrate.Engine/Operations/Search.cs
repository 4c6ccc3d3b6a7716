using AmberCrate.Core.Problems;
using AmberCrate.Core.Searching;
using AmberCrate.Core.Values;
using AmberCrate.Engine.Catalogues;

namespace AmberCrate.Engine.Operations;

/// <summary>Finds apps by name or purpose, or lists them by a filter.</summary>
/// <param name="session">The session.</param>
public sealed class Search(Session session)
{
    /// <summary>Does it.</summary>
    /// <param name="wish">What to search for.</param>
    /// <param name="cancel">Stops.</param>
    /// <exception cref="ProblemException">There is no such catalogue, or nothing to search for.</exception>
    public async Task<SearchReport> RunAsync(SearchWish wish, CancellationToken cancel)
    {
        using var station = await new Opening(session).ToReadFreshAsync(cancel);
        var offers = station.Offers();
        var catalogues = CataloguesOf(wish, offers);
        var machine = station.State();
        var query = SearchQuery.Of([.. wish.Words]);
        if (wish.Words.Count == 0 && wish.Filter.IsEmpty && wish.Catalogue is null)
            throw new Problem(
                ProblemCode.BadCommandLine,
                "search needs words, or a filter to list by",
                remedy: NextCommand.HelpOf("search")).ToException();
        var request = new SearchRequest(
            query,
            wish.Filter,
            wish.Order,
            catalogues,
            [.. machine.Apps.Select(app => app.Id.Text)],
            wish.Limit)
        { IsListing = wish.Words.Count == 0 };
        var results = station.Cache.Search(request);
        var freshness = station.Freshness();
        return new SearchReport(
            wish,
            [.. results.Shown.Select(result => new FoundApp(
                result, NewestReleases.VersionFor(result.Newest, machine.Platform), machine.Find(result.Id)?.Version.Text))],
            results,
            [.. freshness.States.Where(state => catalogues.Contains(state.Name))],
            freshness,
            results.Total == 0 ? offers.Nearest(string.Join(' ', wish.Words)) : []);
    }

    private static IReadOnlyList<CatalogueName> CataloguesOf(SearchWish wish, CachedOffers offers)
    {
        if (wish.Catalogue is not { } only) return offers.Catalogues;
        List<CatalogueName> named = [.. offers.Catalogues.Where(name => name.Text == only)];
        return named.Count > 0 ? named : throw new Problem(
            ProblemCode.NothingMatched, $"there is no catalogue \"{only}\" that is asked",
            remedy: NextCommand.Of("catalogue list")).ToException();
    }
}
