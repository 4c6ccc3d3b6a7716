using AmberCrate.Core.Problems;
using AmberCrate.Core.Searching;
using AmberCrate.Core.Values;
using AmberCrate.Engine.Catalogues;
using AmberCrate.Engine.Indexing;
using AmberCrate.Engine.Sessions;

namespace AmberCrate.Engine.Searching;

/// <summary>
/// Finds apps by name or purpose, or lists them by a filter. A user's own catalogues come first; those for all users add what
/// the own ones do not offer.
/// </summary>
/// <param name="session">The session.</param>
public sealed class Search(Session session)
{
    /// <summary>Searches the catalogues of the scope.</summary>
    /// <param name="request">What to search for.</param>
    /// <param name="cancel">Cancels the operation.</param>
    /// <exception cref="ProblemException">There is no such catalogue, or nothing to search for.</exception>
    public async Task<SearchReport> RunAsync(SearchRequest request, CancellationToken cancel)
    {
        if (request.Words.Count == 0 && request.Filter.IsEmpty && request.Catalogue is null)
            throw new Problem(
                ProblemCode.BadCommandLine,
                "search needs words, or a filter to list by",
                remedy: NextCommand.HelpOf("search")).ToException();
        var opening = new RootOpener(session);
        using var own = await opening.ToReadFreshAsync(cancel);
        using var other = opening.OtherCatalogues(own);
        var (first, second) = (AskedOf(own.Catalogues, request), other is null ? [] : AskedOf(other.Catalogues, request));
        if (request.Catalogue is { } only && first.Count + second.Count == 0)
            throw new Problem(
                ProblemCode.NothingMatched, $"no catalogue in use is called \"{only}\"",
                remedy: NextCommand.Create("catalogue list")).ToException();
        var languages = session.Host.Languages(request.Language);
        var found = Found(own, first, request, [], languages);
        var freshness = own.Catalogues.Freshness();
        if (other is not null)
        {
            found = found.With(Found(other, second, request, own.Cache.IdsFrom("", first, int.MaxValue), languages), request);
            freshness = freshness.With(other.Catalogues.Freshness());
        }

        return new SearchReport(
            request, own.Layout.Scope, found.Apps, found.Results, [.. freshness.States.Where(IsAsked)], freshness,
            found.Results.Total == 0 ? own.Catalogues.Offers().Nearest(string.Join(' ', request.Words)) : []);

        bool IsAsked(CatalogueState state) => (state.Scope == own.Layout.Scope ? first : second).Contains(state.Name);
    }

    private static IReadOnlyList<CatalogueName> AskedOf(KnownCatalogues catalogues, SearchRequest request)
    {
        var asked = catalogues.Offers().Catalogues;
        return request.Catalogue is { } only ? [.. asked.Where(name => name.Text == only)] : asked;
    }

    private static FoundApps Found(
        OpenRoot station, IReadOnlyList<CatalogueName> catalogues, SearchRequest request, IReadOnlyCollection<string> without,
        IReadOnlyList<string> languages)
    {
        var machine = station.Apps.Read();
        var results = station.Cache.Search(new IndexQuery(
            SearchQuery.Parse([.. request.Words]), request.Filter, request.Order, catalogues,
            [.. machine.Apps.Select(app => app.Id.Text)],
            request.Limit)
        {
            IsListing = request.Words.Count == 0, WithoutIds = without,
            Languages = languages,
        });
        return new FoundApps(
            [.. results.Shown.Select(result => new FoundApp(
                result, NewestReleases.VersionFor(result.Newest, machine.Platform), machine.Find(result.Id)?.Version.Text,
                station.Layout.Scope))],
            results);
    }

    /// <summary>What one scope has, or both.</summary>
    private sealed record FoundApps(IReadOnlyList<FoundApp> Apps, SearchResults Results)
    {
        /// <summary>Together with what the other scope has. Guesses count only beside matches of their own scope.</summary>
        public FoundApps With(FoundApps other, SearchRequest request)
        {
            var hasMatches = Results.Matches + other.Results.Matches > 0;
            List<FoundApps> both = [.. new[] { this, other }.Where(one => !hasMatches || one.Results.Matches > 0)];
            var apps = both.SelectMany(one => one.Apps);
            IEnumerable<FoundApp> ordered = request.Order switch
            {
                SearchOrder.Newest => apps.OrderByDescending(app => app.Result.Released, StringComparer.Ordinal),
                SearchOrder.Popular => apps.OrderByDescending(app => app.Result.Machines),
                SearchOrder.Name => apps.OrderBy(app => SearchText.Fold(app.Result.Name), StringComparer.Ordinal),
                SearchOrder.Match => apps.OrderByDescending(app => app.Result.Match.Weight),
            };
            List<FoundApp> shown = [.. ordered.Take(request.Limit)];
            return new FoundApps(
                shown,
                new SearchResults(
                    [.. shown.Select(app => app.Result)], both.Sum(one => one.Results.Matches),
                    both.Sum(one => one.Results.Guesses), both.Sum(one => one.Results.Partly)));
        }
    }
}
