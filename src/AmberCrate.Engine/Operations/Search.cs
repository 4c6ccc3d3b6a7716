using AmberCrate.Core.Problems;
using AmberCrate.Core.Searching;
using AmberCrate.Core.Values;
using AmberCrate.Engine.Catalogues;

namespace AmberCrate.Engine.Operations;

/// <summary>
/// Finds apps by name or purpose, or lists them by a filter. A person's own catalogues come first; those for all users add what
/// the own ones do not offer.
/// </summary>
/// <param name="session">The session.</param>
public sealed class Search(Session session)
{
    /// <summary>Does it.</summary>
    /// <param name="wish">What to search for.</param>
    /// <param name="cancel">Stops.</param>
    /// <exception cref="ProblemException">There is no such catalogue, or nothing to search for.</exception>
    public async Task<SearchReport> RunAsync(SearchWish wish, CancellationToken cancel)
    {
        if (wish.Words.Count == 0 && wish.Filter.IsEmpty && wish.Catalogue is null)
            throw new Problem(
                ProblemCode.BadCommandLine,
                "search needs words, or a filter to list by",
                remedy: NextCommand.HelpOf("search")).ToException();
        var opening = new Opening(session);
        using var own = await opening.ToReadFreshAsync(cancel);
        using var other = opening.OtherCatalogues(own);
        var (first, second) = (AskedOf(own, wish), other is null ? [] : AskedOf(other, wish));
        if (wish.Catalogue is { } only && first.Count + second.Count == 0)
            throw new Problem(
                ProblemCode.NothingMatched, $"no catalogue in use is called \"{only}\"",
                remedy: NextCommand.Of("catalogue list")).ToException();
        var languages = session.Host.Languages(wish.Language);
        var found = Found(own, first, wish, [], languages);
        var freshness = own.Freshness();
        if (other is not null)
        {
            found = found.With(Found(other, second, wish, own.Cache.IdsFrom("", first, int.MaxValue), languages), wish);
            freshness = freshness.With(other.Freshness());
        }

        return new SearchReport(
            wish, own.Layout.Scope, found.Apps, found.Results, [.. freshness.States.Where(IsAsked)], freshness,
            found.Results.Total == 0 ? own.Offers().Nearest(string.Join(' ', wish.Words)) : []);

        bool IsAsked(CatalogueState state) => (state.Scope == own.Layout.Scope ? first : second).Contains(state.Name);
    }

    private static IReadOnlyList<CatalogueName> AskedOf(Workstation station, SearchWish wish)
    {
        var asked = station.Offers().Catalogues;
        return wish.Catalogue is { } only ? [.. asked.Where(name => name.Text == only)] : asked;
    }

    private static FoundApps Found(
        Workstation station, IReadOnlyList<CatalogueName> catalogues, SearchWish wish, IReadOnlyCollection<string> without,
        IReadOnlyList<string> languages)
    {
        var machine = station.State();
        var results = station.Cache.Search(new SearchRequest(
            SearchQuery.Of([.. wish.Words]), wish.Filter, wish.Order, catalogues, [.. machine.Apps.Select(app => app.Id.Text)],
            wish.Limit)
        {
            IsListing = wish.Words.Count == 0, WithoutIds = without,
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
        public FoundApps With(FoundApps other, SearchWish wish)
        {
            var hasMatches = Results.Matches + other.Results.Matches > 0;
            List<FoundApps> both = [.. new[] { this, other }.Where(one => !hasMatches || one.Results.Matches > 0)];
            var apps = both.SelectMany(one => one.Apps);
            IEnumerable<FoundApp> ordered = wish.Order switch
            {
                SearchOrder.Newest => apps.OrderByDescending(app => app.Result.Released, StringComparer.Ordinal),
                SearchOrder.Popular => apps.OrderByDescending(app => app.Result.Machines),
                SearchOrder.Name => apps.OrderBy(app => SearchText.Fold(app.Result.Name), StringComparer.Ordinal),
                _ => apps.OrderByDescending(app => app.Result.Match.Weight),
            };
            List<FoundApp> shown = [.. ordered.Take(wish.Limit)];
            return new FoundApps(
                shown,
                new SearchResults(
                    [.. shown.Select(app => app.Result)], both.Sum(one => one.Results.Matches),
                    both.Sum(one => one.Results.Guesses), both.Sum(one => one.Results.Partly)));
        }
    }
}
