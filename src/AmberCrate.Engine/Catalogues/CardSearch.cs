using AmberCrate.Core.Searching;
using AmberCrate.Core.Values;
using AmberCrate.Engine.Storage;

namespace AmberCrate.Engine.Catalogues;

/// <summary>
/// One search of the catalogue cache. The index is asked for the best kind of match first and for no more than is wanted, so
/// that the time does not grow with the number of apps that match; the ranking proper is Core's.
/// </summary>
internal sealed class CardSearch
{
    private const int MostGuesses = 8, MostBeside = 5, LeastBeside = 5, MostCounted = 200;
    private const int Spare = 20;
    private const string AnyColumn = "- marks : ";

    private readonly Database _database;
    private readonly KnownWords _words;
    private readonly SearchRequest _request;
    private readonly IReadOnlyList<(long Number, CatalogueName Name)> _catalogues;
    private readonly IReadOnlyList<long>? _only;

    public CardSearch(Database database, SearchRequest request)
    {
        (_database, _words, _request) = (database, new KnownWords(database), request);
        var known = database.Query(
            "SELECT number, name FROM catalogues", row => (Number: row.Number(0), Name: CatalogueName.Parse(row.Text(1))));
        _catalogues = [.. known.Where(catalogue => request.Catalogues.Contains(catalogue.Name))];
        _only = _catalogues.Count == known.Count ? null : [.. _catalogues.Select(catalogue => catalogue.Number)];
    }

    /// <summary>
    /// First as typed; where nothing matches, with every word as the beginning of one; where still nothing does, it is guessed
    /// what was meant.
    /// Where little is found, apps whose names may have been meant are told behind it.
    /// </summary>
    public SearchResults Run()
    {
        if (_catalogues.Count == 0 || (_request.Query.Words.Count == 0 && !_request.IsListing))
            return new SearchResults([], 0, 0);
        var query = _request.Query.Joined(_words.HasBeginning);
        var found = Find(query);
        if (found.Count == 0 && query.Words.Count > 1) found = Find(query = query.Loosened());
        var guesses = found.Count >= _request.Limit || query.Words.Count == 0
            ? []
            : found.Count > 0 ? MisspelledNames(query, found) : Guesses(query);
        return new SearchResults(
            [.. found.Concat(guesses).Take(_request.Limit).Select(hit => hit.Shown)], found.Count == 0 ? 0 : Count(query),
            guesses.Count);
    }

    /// <summary>
    /// What may have been meant where nothing matches: words that nothing begins with are misspelled, and, where that does not
    /// help, any of them.
    /// </summary>
    private List<Hit> Guesses(SearchQuery query)
    {
        var unknown = query.Words.Where(word => !Matches($"{AnyColumn}\"{word}\" *")).ToHashSet(StringComparer.Ordinal);
        var guessed = unknown.Count == 0 ? [] : Guessed(word => unknown.Contains(word) ? Near(word, AnyColumn) : [(word, 0)]);
        return guessed.Count == 0 && unknown.Count < query.Words.Count
            ? Guessed(word => [(word, 0), .. Near(word, AnyColumn)])
            : guessed;

        List<Hit> Guessed(Func<string, IReadOnlyList<(string Word, int Distance)>> meant) =>
            FindAny(query.Guesses(meant, MostGuesses), namesOnly: false);
    }

    /// <summary>
    /// Apps whose names a word may be a misspelling of, whatever else is found: it may well be another app's right one.
    /// </summary>
    private List<Hit> MisspelledNames(SearchQuery query, List<Hit> found)
    {
        const string names = $"{{{SearchStatement.NameColumns}}} : ";
        var known = found.Select(hit => hit.Shown.Id).ToHashSet();
        var guesses = query.Guesses(word => [(word, 0), .. word.Length < LeastBeside ? [] : Near(word, names)], MostGuesses);
        return [.. FindAny(guesses, namesOnly: true).Where(hit => !known.Contains(hit.Shown.Id)).Take(MostBeside)];
    }

    private List<Hit> FindAny(IEnumerable<SearchQuery> queries, bool namesOnly) =>
        [.. queries.SelectMany(query => Find(query, namesOnly))
            .OrderByDescending(hit => hit.Shown.Match.Weight)
            .DistinctBy(hit => hit.Shown.Id)];

    /// <summary>The best matches: somewhat more than are wanted, since an app may be in several catalogues.</summary>
    private List<Hit> Find(SearchQuery query, bool namesOnly = false)
    {
        var statement = new SearchStatement(_request, query, _only, namesOnly);
        var wanted = (_request.Limit * _catalogues.Count) + Spare;
        var rows = new Dictionary<long, Hit>();
        var isByMatch = _request.Order == SearchOrder.Match;

        // Where there are no more than are wanted, one look finds them all.
        if (Collect(statement, statement.Everything, _request.Order, isByMatch ? wanted + 1 : wanted, query, rows) > wanted)
        {
            rows.Clear();
            foreach (var match in statement.ByRank)
            {
                Collect(statement, match, SearchOrder.Match, wanted, query, rows);
                if (rows.Count >= wanted) break;
            }
        }

        return [.. Ordered(rows.Values, query).DistinctBy(hit => hit.Shown.Id)];
    }

    /// <summary>Reads what matches an expression.</summary>
    /// <returns>How many rows the index had, up to <paramref name="most"/>.</returns>
    private int Collect(
        SearchStatement statement, string? match, SearchOrder order, int most, SearchQuery query, Dictionary<long, Hit> into)
    {
        const string columns =
            $"apps.number, apps.catalogue, apps.app, apps.title, apps.blurb, apps.releases, apps.newest, {CatalogueTables.Entry}";
        var by = order switch
        {
            SearchOrder.Newest => "apps.newest DESC, apps.name",
            SearchOrder.Name => "apps.name",
            _ => match is null ? "apps.place" : "texts.rowid",
        };
        var found = _database.Query(
            $"{statement.Select(columns, match)} ORDER BY {by} LIMIT {most}",
            row => (Number: row.Number(0), Hit: into.ContainsKey(row.Number(0)) ? null : Judge(query, row)),
            statement.Values(match));
        foreach (var (number, hit) in found)
        {
            if (hit is not null) into.Add(number, hit);
        }

        return found.Count;
    }

    private Hit? Judge(SearchQuery query, Row row)
    {
        var entry = AppRow.EntryOf(row, 7);
        var catalogue = row.Number(1);
        if ((query.Words.Count == 0 ? SearchRanking.Listed(entry) : SearchRanking.Judge(query, entry)) is not { } match
            || _catalogues.FirstOrDefault(known => known.Number == catalogue).Name is not { } name) return null;
        var shown = new SearchResult(
            name, AppId.Parse(row.Text(2)), row.Text(3), row.Text(4), entry.Kind, row.Text(5), row.Text(6), match);
        return new Hit(shown, entry.Name);
    }

    private IEnumerable<Hit> Ordered(IEnumerable<Hit> hits, SearchQuery query)
    {
        var first = _request.Order switch
        {
            SearchOrder.Newest => hits.OrderByDescending(hit => hit.Shown.Released, StringComparer.Ordinal),
            SearchOrder.Name => hits.OrderBy(hit => hit.Name, StringComparer.Ordinal),
            _ => hits.OrderByDescending(hit => hit.Shown.Match.Weight),
        };
        return first.ThenBy(hit => hit.Name, StringComparer.Ordinal)
            .ThenBy(hit => hit.Shown.Id.Text, StringComparer.Ordinal)
            .ThenBy(hit => CachedCards.PositionOf(hit.Shown.Catalogue, _request.Catalogues));
    }

    /// <summary>How many apps match in all, each counted once.</summary>
    private int Count(SearchQuery query)
    {
        var statement = new SearchStatement(_request, query, _only);
        var match = statement.Everything;
        var sql = match is null || statement.HasConditions || _catalogues.Count > 1
            ? statement.Select("COUNT(DISTINCT apps.app)", match)
            : "SELECT COUNT(*) FROM texts WHERE texts MATCH $1";
        return (int)_database.Number(sql, statement.Values(match));
    }

    /// <summary>The likeliest words that are spelled nearly like one.</summary>
    /// <param name="word">The word.</param>
    /// <param name="columns">Where they must be: the beginning of an expression of the index.</param>
    private IReadOnlyList<(string Word, int Distance)> Near(string word, string columns) =>
        SpellingGuess.MostWrong(word) is > 0 and var most
        ? SpellingGuess.Of(
            _words.Near(new SpellingPattern(word, most, skipsJoints: false)).Where(near => near.Distance > 0),
            candidate => Frequency(candidate, columns))
        : [];

    private bool Matches(string expression) =>
        _database.Number("SELECT 1 FROM texts WHERE texts MATCH $1 LIMIT 1", expression) == 1;

    /// <summary>
    /// How often a word occurs. Which of two frequent ones is the more frequent says nothing about what was meant.
    /// </summary>
    private long Frequency(string word, string columns) => _database.Number(
        "SELECT COUNT(*) FROM (SELECT 1 FROM texts WHERE texts MATCH $1 LIMIT $2)", $"{columns}\"{word}\"", (long)MostCounted);

    private sealed record Hit(SearchResult Shown, string Name);
}
