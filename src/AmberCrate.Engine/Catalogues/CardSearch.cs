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
    private const int MostGuesses = 8;
    private const int Spare = 20;

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
    /// First as typed; where nothing matches, with every word as the beginning of one; and where still nothing does, with
    /// words that differ in a letter or two.
    /// </summary>
    public SearchResults Run()
    {
        var query = _request.Query;
        if (_catalogues.Count == 0 || (query.Words.Count == 0 && !_request.IsListing)) return new SearchResults([], 0);
        var found = Find(query);
        if (found.Count == 0 && query.Words.Count > 1) found = Find(query = query.Loosened());
        if (found.Count > 0 || query.Words.Count == 0) return new SearchResults(Results(found), Count(query));
        var guessed = query.Guesses(Meant, MostGuesses).SelectMany(Find).OrderByDescending(hit => hit.Shown.Match.Weight).DistinctBy(hit => hit.Shown.Id).ToList();
        return new SearchResults(Results(guessed), guessed.Count);
    }

    /// <summary>The best matches: somewhat more than are wanted, since an app may be in several catalogues.</summary>
    private List<Hit> Find(SearchQuery query)
    {
        var statement = new SearchStatement(_request, query, _only);
        var wanted = (_request.Limit * _catalogues.Count) + Spare;
        var rows = new Dictionary<long, Hit>();
        if (_request.Order == SearchOrder.Match)
        {
            foreach (var match in statement.ByRank)
            {
                Collect(statement, match, "place", wanted, query, rows);
                if (rows.Count >= wanted) break;
            }
        }
        else
        {
            Collect(statement, statement.Everything, _request.Order == SearchOrder.Newest ? "newest DESC, apps.name" : "name", wanted, query, rows);
        }

        return [.. Ordered(rows.Values, query).DistinctBy(hit => hit.Shown.Id)];
    }

    private void Collect(SearchStatement statement, string? match, string order, int most, SearchQuery query, Dictionary<long, Hit> into)
    {
        const string columns = $"apps.number, apps.catalogue, apps.app, apps.title, apps.blurb, apps.releases, apps.newest, {CatalogueTables.Entry}";
        var sql = $"{statement.Select(columns, match)} ORDER BY {(order == "place" && match is not null ? "texts.rowid" : $"apps.{order}")} LIMIT {most}";
        foreach (var (number, hit) in _database.Query(sql, row => (row.Number(0), into.ContainsKey(row.Number(0)) ? null : Judge(query, row)), statement.Values(match)))
        {
            if (hit is not null) into.Add(number, hit);
        }
    }

    private Hit? Judge(SearchQuery query, Row row)
    {
        var entry = AppRow.EntryOf(row, 7);
        if ((query.Words.Count == 0 ? SearchRanking.Listed(entry) : SearchRanking.Judge(query, entry)) is not { } match) return null;
        var catalogue = row.Number(1);
        var shown = new SearchResult(_catalogues.First(known => known.Number == catalogue).Name, AppId.Parse(row.Text(2)), row.Text(3), row.Text(4), entry.Kind, row.Text(5), match);
        return new Hit(shown, row.Text(6), entry.Name);
    }

    private IEnumerable<Hit> Ordered(IEnumerable<Hit> hits, SearchQuery query)
    {
        var first = _request.Order switch
        {
            SearchOrder.Newest => hits.OrderByDescending(hit => hit.Newest, StringComparer.Ordinal),
            SearchOrder.Name => hits.OrderBy(hit => hit.Name, StringComparer.Ordinal),
            _ => hits.OrderByDescending(hit => hit.Shown.Match.Weight),
        };
        return first.ThenBy(hit => hit.Name, StringComparer.Ordinal).ThenBy(hit => hit.Shown.Id.Text, StringComparer.Ordinal).ThenBy(hit => CatalogueCache.PositionOf(hit.Shown.Catalogue, _request.Catalogues));
    }

    private List<SearchResult> Results(IEnumerable<Hit> hits) => [.. hits.Take(_request.Limit).Select(hit => hit.Shown)];

    /// <summary>How many apps match in all, each counted once.</summary>
    private int Count(SearchQuery query)
    {
        var statement = new SearchStatement(_request, query, _only);
        var match = statement.Everything;
        var sql = match is null || statement.HasConditions || _catalogues.Count > 1 ? statement.Select("COUNT(DISTINCT apps.app)", match) : "SELECT COUNT(*) FROM texts WHERE texts MATCH $1";
        return (int)_database.Number(sql, statement.Values(match));
    }

    /// <summary>What a word of a query may stand for: itself where a word begins with it, otherwise what is spelled alike.</summary>
    private IReadOnlyList<(string Word, int Distance)> Meant(string word)
    {
        if (_database.Number("SELECT 1 FROM texts WHERE texts MATCH $1 LIMIT 1", $"- marks : \"{word}\" *") == 1) return [(word, 0)];
        var tolerance = SpellingGuess.Tolerance(word.Length);
        var known = _database.Query("SELECT word FROM words WHERE length(word) BETWEEN $1 AND $2", row => row.Text(0), word.Length - tolerance, word.Length + tolerance);
        return SpellingGuess.Of(word, known, candidate => _database.Number("SELECT COUNT(*) FROM texts WHERE texts MATCH $1", $"- marks : \"{candidate}\""));
    }

    private sealed record Hit(SearchResult Shown, string Newest, string Name);
}
