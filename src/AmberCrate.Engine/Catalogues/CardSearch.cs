using AmberCrate.Core.Cards;
using AmberCrate.Core.Searching;
using AmberCrate.Engine.Records;

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
    private readonly SearchRequest _request;
    private readonly IReadOnlyList<(long Number, CatalogueName Name)> _catalogues;
    private readonly IReadOnlyList<long>? _only;

    public CardSearch(Database database, SearchRequest request)
    {
        (_database, _request) = (database, request);
        var known = database.Query("SELECT number, name FROM catalogues", row => (Number: row.Number(0), Name: CatalogueName.Parse(row.Text(1))));
        _catalogues = [.. known.Where(catalogue => request.Catalogues.Contains(catalogue.Name))];
        _only = _catalogues.Count == known.Count ? null : [.. _catalogues.Select(catalogue => catalogue.Number)];
    }

    /// <summary>
    /// First as typed; where nothing matches, with every word as the beginning of one. Where still nothing does, words that nothing begins with are
    /// taken for misspelled ones, and then those that something begins with, too. Where little is found, names that are a letter off are told behind it.
    /// </summary>
    public SearchResults Run()
    {
        if (_catalogues.Count == 0 || (_request.Query.Words.Count == 0 && !_request.IsListing)) return new SearchResults([], 0, 0);
        var query = _request.Query.Joined(IsKnown);
        var found = Find(query);
        if (found.Count == 0 && query.Words.Count > 1) found = Find(query = query.Loosened());
        var guesses = found.Count >= _request.Limit || query.Words.Count == 0 ? [] : found.Count > 0 ? NamesOneLetterOff(query, found) : Guesses(query);
        return new SearchResults([.. found.Concat(guesses).Take(_request.Limit).Select(hit => hit.Shown)], found.Count == 0 ? 0 : Count(query), guesses.Count);
    }

    /// <summary>
    /// What may have been meant where nothing matches, by the first way of these that finds anything: words that nothing begins with are one letter off;
    /// they are two letters off, for which all words are compared; any word is one letter off.
    /// </summary>
    private List<Hit> Guesses(SearchQuery query)
    {
        var unknown = query.Words.Where(word => !Matches($"{AnyColumn}\"{word}\" *")).ToHashSet(StringComparer.Ordinal);
        var guessed = Guessed(word => unknown.Contains(word) ? OneLetterOff(word, AnyColumn) : [(word, 0)]);
        if (guessed.Count == 0 && unknown.Count > 0) guessed = Guessed(word => unknown.Contains(word) ? Near(word) : [(word, 0)]);
        return guessed.Count == 0 && unknown.Count < query.Words.Count ? Guessed(word => [(word, 0), .. OneLetterOff(word, AnyColumn)]) : guessed;

        List<Hit> Guessed(Func<string, IReadOnlyList<(string Word, int Distance)>> meant) => FindAny(query.Guesses(meant, MostGuesses), namesOnly: false);
    }

    /// <summary>Apps with names that are one letter off, whatever else is found: a misspelled word may well be another app's right one.</summary>
    private List<Hit> NamesOneLetterOff(SearchQuery query, List<Hit> found)
    {
        const string names = $"{{{SearchStatement.NameColumns}}} : ";
        var known = found.Select(hit => hit.Shown.Id).ToHashSet();
        var guesses = query.Guesses(word => [(word, 0), .. word.Length < LeastBeside ? [] : OneLetterOff(word, names)], MostGuesses);
        return [.. FindAny(guesses, namesOnly: true).Where(hit => !known.Contains(hit.Shown.Id)).Take(MostBeside)];
    }

    private List<Hit> FindAny(IEnumerable<SearchQuery> queries, bool namesOnly) =>
        [.. queries.SelectMany(query => Find(query, namesOnly)).OrderByDescending(hit => hit.Shown.Match.Weight).DistinctBy(hit => hit.Shown.Id)];

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
    private int Collect(SearchStatement statement, string? match, SearchOrder order, int most, SearchQuery query, Dictionary<long, Hit> into)
    {
        const string columns = $"apps.number, apps.catalogue, apps.app, apps.title, apps.blurb, apps.releases, apps.newest, {CatalogueTables.Entry}";
        var by = order switch
        {
            SearchOrder.Newest => "apps.newest DESC, apps.name",
            SearchOrder.Name => "apps.name",
            _ => match is null ? "apps.place" : "texts.rowid",
        };
        var found = _database.Query($"{statement.Select(columns, match)} ORDER BY {by} LIMIT {most}", row => (Number: row.Number(0), Hit: into.ContainsKey(row.Number(0)) ? null : Judge(query, row)), statement.Values(match));
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
        if ((query.Words.Count == 0 ? SearchRanking.Listed(entry) : SearchRanking.Judge(query, entry)) is not { } match || _catalogues.FirstOrDefault(known => known.Number == catalogue).Name is not { } name) return null;
        var shown = new SearchResult(name, AppId.Parse(row.Text(2)), row.Text(3), row.Text(4), entry.Kind, row.Text(5), row.Text(6), match);
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
        return first.ThenBy(hit => hit.Name, StringComparer.Ordinal).ThenBy(hit => hit.Shown.Id.Text, StringComparer.Ordinal).ThenBy(hit => CatalogueCache.PositionOf(hit.Shown.Catalogue, _request.Catalogues));
    }

    /// <summary>How many apps match in all, each counted once.</summary>
    private int Count(SearchQuery query)
    {
        var statement = new SearchStatement(_request, query, _only);
        var match = statement.Everything;
        var sql = match is null || statement.HasConditions || _catalogues.Count > 1 ? statement.Select("COUNT(DISTINCT apps.app)", match) : "SELECT COUNT(*) FROM texts WHERE texts MATCH $1";
        return (int)_database.Number(sql, statement.Values(match));
    }

    /// <summary>The likeliest words that are spelled nearly like one, of all that there are.</summary>
    private IReadOnlyList<(string Word, int Distance)> Near(string word) => SpellingGuess.PatternOf(word) is not { } pattern ? [] : SpellingGuess.Of(
        CatalogueCache.Near(_database, "SELECT word FROM words WHERE length(word) BETWEEN $1 AND $2", pattern), candidate => Frequency(candidate, AnyColumn));

    /// <summary>The likeliest words that are one letter off. They are looked up, not searched for, which takes the same time in every catalogue.</summary>
    /// <param name="word">The word.</param>
    /// <param name="columns">Where they must be: the beginning of an expression of the index.</param>
    private IReadOnlyList<(string Word, int Distance)> OneLetterOff(string word, string columns)
    {
        var candidates = $"[{string.Join(',', SpellingGuess.OneLetterOff(word).Select(candidate => $"\"{candidate}\""))}]";
        return SpellingGuess.Of(
            _database.Query("SELECT value FROM json_each($1) WHERE value IN (SELECT word FROM words)", row => (row.Text(0), 1), candidates), candidate => Frequency(candidate, columns));
    }

    private bool Matches(string expression) => _database.Number("SELECT 1 FROM texts WHERE texts MATCH $1 LIMIT 1", expression) == 1;

    /// <summary>How often a word occurs. Which of two frequent ones is the more frequent says nothing about what was meant.</summary>
    private long Frequency(string word, string columns) => _database.Number("SELECT COUNT(*) FROM (SELECT 1 FROM texts WHERE texts MATCH $1 LIMIT $2)", $"{columns}\"{word}\"", (long)MostCounted);

    private bool IsKnown(string beginning) => _database.Number("SELECT 1 FROM words WHERE word >= $1 AND word < $1 || char(1114111) LIMIT 1", beginning) == 1;

    private sealed record Hit(SearchResult Shown, string Name);
}
