using AmberCrate.Core.Searching;
using AmberCrate.Core.Values;
using AmberCrate.Engine.Storage;

namespace AmberCrate.Engine.Indexing;

/// <summary>
/// One search of the catalogue cache. The index is searched for the best kind of match first and for no more than is wanted, so
/// that the time does not grow with the number of apps that match; the ranking proper is Core's.
/// </summary>
internal sealed class CardSearch : IDisposable
{
    private const int MostGuesses = 8, MostBeside = 5, LeastBeside = 5, MostCounted = 600, MostTogether = 6, MostRare = 5;

    // Up to so many places are read, and so counted, in the first look. A second query that only counts is cheaper for more.
    private const int MostSeen = 3_000;
    private const string Machines =
        "COALESCE((SELECT machines FROM popularity WHERE popularity.catalogue = apps.catalogue "
            + "AND popularity.app = apps.app), 0)";

    private const int Pool = 240, LargePool = 60, LargeCatalogue = 20_000;
    private const string AllColumns = SearchStatement.AllColumns;
    private const string Columns =
        $"apps.number, apps.catalogue, apps.app, apps.title, apps.blurb, apps.releases, apps.newest, {Machines}, "
            + CatalogueTables.Entry;

    private readonly Database _database;
    private readonly IndexVocabulary _words;
    private readonly IndexQuery _request;
    private readonly IReadOnlyList<(long Number, CatalogueName Name)> _catalogues;
    private readonly IReadOnlyList<long>? _only;
    private readonly long _apps;
    private readonly Dictionary<string, bool> _isKnown = new(StringComparer.Ordinal);
    private readonly Dictionary<(string Word, string Columns, bool IsPrefix), long> _frequencies = [];
    private Statement? _translations;

    public CardSearch(Database database, IndexQuery request)
    {
        (_database, _words, _request) = (database, new IndexVocabulary(database), request);
        _apps = database.Number("SELECT COALESCE(SUM(apps), 0) FROM catalogues");
        var known = database.Query(
            "SELECT number, name FROM catalogues", row => (Number: row.Number(0), Name: CatalogueName.Parse(row.Text(1))));
        _catalogues = [.. known.Where(catalogue => request.Catalogues.Contains(catalogue.Name))];
        _only = _catalogues.Count == known.Count ? null : [.. _catalogues.Select(catalogue => catalogue.Number)];
    }

    /// <summary>
    /// First as typed, without fillers, and as a purpose; where nothing matches, with every word as the beginning of one; where
    /// still nothing does, it is guessed what was meant; at last, not every word must be found. Where little is found, or nothing
    /// that fits well, apps whose names may have been meant are reported too.
    /// </summary>
    public SearchResults Run()
    {
        if (_catalogues.Count == 0 || (_request.Query.Words.Count == 0 && !_request.IsListing))
            return new SearchResults([], 0, 0);
        var query = Understood(_request.Query);
        var (found, matches) = FindAll(query);
        if (found.Count == 0 && query.Words.Count > 1) (found, matches) = FindAll(query = query.Loosened());
        var guesses = found.Count >= _request.Limit && !AreWeak(found) || query.Words.Count == 0
            ? []
            : found.Count > 0 ? MisspelledNames(query, found) : Guesses(query);
        var most = AreWeak(found) && guesses.Count == 0 || AreWeak([.. found, .. guesses]) ? FindMost(query) : [];
        var known = found.Select(hit => hit.Shown.Id).ToHashSet();
        most.RemoveAll(hit => known.Contains(hit.Shown.Id) || (known.Count > 0 && hit.Shown.Match.IsVague));
        var shown = found.Concat(guesses).Concat(most);
        if (AreWeak(found)) shown = Ordered(shown).DistinctBy(hit => hit.Shown.Id);
        return new SearchResults(
            [.. shown.Take(_request.Limit).Select(hit => hit.Shown)], matches, guesses.Count, most.Count);
    }

    /// <inheritdoc/>
    public void Dispose() => _translations?.Dispose();

    /// <summary>A query in all its readings, with what the index knows of its words.</summary>
    private SearchQuery Understood(SearchQuery query)
    {
        if (query.Words.Count == 0) return query;
        var read = query.Joined(_words.HasBeginning).WithoutFillers(Language)
            .ForPurposes(new KnownPurposes(_database).For(query.Words), Language);
        var isOne = read.Readings.All(reading => reading.Words.Count < 2);
        return read.Knowing(word => new WordFacts(
            _words.FormsOf(word, _request.Languages), isOne ? 1 : ImportanceOf(word), _words.Beginning(word)));
    }

    /// <summary>How telling a word is: the rarer, the more, by the logarithm of its share of all apps.</summary>
    private double ImportanceOf(string word)
    {
        var apps = Math.Max(2.0, _apps);
        return Math.Max(0.1, Math.Log(apps / (1 + Math.Min(Frequency(word, AllColumns), apps - 1))) / Math.Log(apps));
    }

    private static bool AreWeak(IReadOnlyList<Hit> hits) => hits.Count == 0 || SearchRanking.IsWeak(hits[0].Shown.Match);

    /// <summary>
    /// Apps that have most of the words, where none has all. Words that are nowhere are left out or taken for misspelled first;
    /// then one more is left out at a time, until something is found.
    /// </summary>
    private List<Hit> FindMost(SearchQuery query)
    {
        var telling = query.Lacking(0).Readings[0].Words;
        if (telling.Count < 2) return [];
        var words = telling
            .Select(word => word.Length < LeastBeside || IsKnown(word)
                ? word
                : Near(word, AllColumns).Select(near => near.Word).FirstOrDefault() ?? word)
            .OrderByDescending(ImportanceOf).Take(MostTogether).ToHashSet(StringComparer.Ordinal);
        var isAsTyped = words.SetEquals(telling);
        var known = isAsTyped ? query : Understood(SearchQuery.Parse([.. words]));
        List<Hit> weak = [];
        for (var missing = isAsTyped ? 1 : 0; missing < known.Lacking(0).Readings[0].Words.Count; missing++)
        {
            var found = Find(known.Lacking(missing));
            if (!AreWeak(found)) return found;
            if (weak.Count == 0) weak = found;
        }

        return weak;
    }

    private bool IsKnown(string word) => _isKnown.TryGetValue(word, out var known)
        ? known
        : _isKnown[word] = Matches(SearchStatement.OfWord(AllColumns, word, _request.Languages))
            || Matches(SearchStatement.OfWord(AllColumns, word, _request.Languages, isPrefix: true));

    /// <summary>
    /// What may have been meant where nothing matches: words that nothing begins with are misspelled, and, where that does not
    /// help, any of them; or all of them are one word of a name.
    /// </summary>
    private List<Hit> Guesses(SearchQuery query)
    {
        var unknown = query.Words.Where(word => !IsKnown(word)).ToHashSet(StringComparer.Ordinal);
        var guessed = unknown.Count == 0 ? [] : Guessed(word => unknown.Contains(word) ? Near(word, AllColumns) : [(word, 0)]);
        if (guessed.Count == 0 && unknown.Count == 0)
            guessed = Guessed(word => [(word, 0), .. Frequency(word, AllColumns) > MostRare ? [] : Near(word, AllColumns)]);

        // Almost any short word is near another one that some description has.
        if (unknown.Any(word => word.Length < LeastBeside)) guessed.RemoveAll(hit => hit.Shown.Match.IsVague);
        return guessed.Count > 0 ? guessed : TogetherGuessed(query);

        List<Hit> Guessed(Func<string, IReadOnlyList<(string Word, int Distance)>> meant) =>
            FindAny(query.Guesses(meant, MostGuesses), namesOnly: false);
    }

    /// <summary>Apps whose names all the words together may be a misspelling of.</summary>
    private List<Hit> TogetherGuessed(SearchQuery query) => query.Words.Count is < 2 or > MostTogether
        ? []
        : FindAny(
            SearchQuery.Parse([query.Readings[0].Squashed]).Guesses(word => Near(word, SearchStatement.NameColumns), MostGuesses),
            namesOnly: true);

    /// <summary>
    /// Apps whose names a word may be a misspelling of, whatever else is found: it may well be another app's right one.
    /// </summary>
    private List<Hit> MisspelledNames(SearchQuery query, List<Hit> found)
    {
        var known = found.Select(hit => hit.Shown.Id).ToHashSet();
        var isBehind = !AreWeak(found);
        var guesses = query.Guesses(
            word => [(word, 0), .. MayBeWrong(word) ? Near(word, SearchStatement.NameColumns) : []], MostGuesses);
        return
        [
            .. FindAny(guesses, namesOnly: true).Concat(TogetherGuessed(query))
                .Where(hit => !isBehind || !known.Contains(hit.Shown.Id))
                .Take(MostBeside)
                .Select(hit => isBehind
                    ? hit with { Shown = hit.Shown with { Match = SearchRanking.BehindOthers(hit.Shown.Match) } }
                    : hit),
        ];
    }

    /// <summary>A word that many apps have is spelled correctly; almost any short one is near another.</summary>
    private bool MayBeWrong(string word) => word.Length >= LeastBeside && Frequency(word, AllColumns) < MostCounted;

    private List<Hit> FindAny(IEnumerable<SearchQuery> queries, bool namesOnly) =>
        [.. queries.SelectMany(query => Find(Understood(query), namesOnly))
            .OrderByDescending(hit => hit.Shown.Match.Weight)
            .DistinctBy(hit => hit.Shown.Id)];

    private string? Language => _request.Languages.Count > 0 ? _request.Languages[^1] : null;

    private int Wanted => (_request.Limit * _catalogues.Count) + (_apps > LargeCatalogue ? LargePool : Pool);

    /// <summary>The best matches, and how many there are in all.</summary>
    private (List<Hit> Found, int Matches) FindAll(SearchQuery query)
    {
        var (found, there) = FindHits(query);
        return (found, found.Count == 0 ? 0 : there ?? Count(query));
    }

    /// <summary>The best matches: more than are wanted, so that those that fit best are among them.</summary>
    /// <param name="query">The query.</param>
    /// <param name="namesOnly">Whether words in names are all that counts.</param>
    private List<Hit> Find(SearchQuery query, bool namesOnly = false) => FindHits(query, namesOnly).Found;

    /// <summary>As <see cref="Find"/>, and how many match in all; null where that is not known by now.</summary>
    private (List<Hit> Found, int? There) FindHits(SearchQuery query, bool namesOnly = false)
    {
        var statement = new SearchStatement(_request, query, _only, namesOnly);
        var rows = new Dictionary<long, Hit>();
        int? seen = null;
        if (_request.Order != SearchOrder.Match || statement.Everything is not { } all) CollectInOrder(statement, query, rows);
        else seen = CollectBest(statement, all, query, rows);
        List<Hit> found = [.. Ordered(rows.Values).DistinctBy(hit => hit.Shown.Id)];

        // If all were judged, only those that fit count. An app may be in each of the catalogues.
        return (found, seen <= Wanted ? found.Count : seen < MostSeen && _catalogues.Count == 1 ? seen : null);
    }

    /// <summary>Reads the first ones in the order that is requested.</summary>
    private void CollectInOrder(SearchStatement statement, SearchQuery query, Dictionary<long, Hit> into)
    {
        var by = _request.Order switch
        {
            SearchOrder.Newest => "apps.newest DESC, apps.name",
            SearchOrder.Popular => $"{Machines} DESC, apps.name",
            SearchOrder.Name => "apps.name",
            SearchOrder.Match => "apps.place",
        };
        var match = statement.Everything;
        AddHits($"{statement.Select(Columns, match)} ORDER BY {by} LIMIT {Wanted}", query, into, statement.Values(match));
    }

    /// <summary>
    /// Reads the best kinds of match first, until there are enough. If no more match than are wanted, one look finds all of
    /// them. If words may be missing, far more match, and that look is left out.
    /// </summary>
    /// <returns>How many match, at most <see cref="MostSeen"/>; null if that is not known.</returns>
    private int? CollectBest(SearchStatement statement, string all, SearchQuery query, Dictionary<long, Hit> into)
    {
        var wanted = Wanted;
        int? seen = null;
        if (query.MostMissing == 0)
        {
            var places = Places(statement, all, Math.Max(MostSeen, wanted + 1), statement.IndexOfEverything);
            seen = places.Count;
            if (seen <= wanted)
            {
                Read(places, query, into);
                return seen;
            }
        }

        var known = new HashSet<long>();
        foreach (var (index, match) in statement.ByRank)
        {
            Read([.. Places(statement, match, wanted, index).Where(known.Add)], query, into);
            if (into.Count >= wanted) break;
        }

        return seen;
    }

    /// <summary>The places of the first apps that match. The index alone tells them, so that few rows are read twice.</summary>
    private List<long> Places(SearchStatement statement, string? match, int most, string index) => _database.Query(
        $"{statement.SelectPlaces(match, index)} LIMIT {most}", row => row.Number(0), statement.Values(match));

    private void Read(List<long> places, SearchQuery query, Dictionary<long, Hit> into)
    {
        if (places.Count == 0) return;
        AddHits(
            $"SELECT {Columns} FROM apps WHERE apps.place IN (SELECT value FROM json_each($1))", query, into,
            $"[{string.Join(',', places)}]");
    }

    private void AddHits(string sql, SearchQuery query, Dictionary<long, Hit> into, params ReadOnlySpan<object?> values)
    {
        foreach (var (number, hit) in _database.Query(sql, row => (row.Number(0), Judge(query, row)), values))
        {
            if (hit is not null) into.Add(number, hit);
        }
    }

    private Hit? Judge(SearchQuery query, Row row)
    {
        var entry = AppRow.EntryOf(row, 8);
        var local = _request.Languages.Count == 0 ? [] : Translations(row.Number(0));
        if (local.Count > 0) entry = entry with { Local = [.. local.Select(said => said.Texts)] };
        var catalogue = row.Number(1);
        if ((query.Words.Count == 0 ? SearchRanking.Listed(entry) : SearchRanking.Judge(query, entry)) is not { } match
            || _catalogues.FirstOrDefault(known => known.Number == catalogue).Name is not { } name) return null;
        var shown = new SearchResult(
            name, AppId.Parse(row.Text(2)), local.Select(said => said.Title).FirstOrDefault(IsSaid) ?? row.Text(3),
            local.Select(said => said.Blurb).FirstOrDefault(IsSaid) ?? row.Text(4), entry.Kind, row.Text(5), row.Text(6), match)
        {
            Machines = row.Small(7),
        };
        return new Hit(shown, entry.Name);
    }

    /// <summary>What an app says in the languages of the user, the most exact first.</summary>
    private IReadOnlyList<(string Title, string Blurb, LocalTexts Texts)> Translations(long number)
    {
        _translations ??= _database.Prepare(
            "SELECT language, title, blurb, name, keywords, summary, description FROM translations WHERE number = $1 "
                + "AND language IN (SELECT value FROM json_each($2))");
        return
        [
            .. _translations.Query(
                    row => (row.Text(1), row.Text(2),
                        Texts: new LocalTexts(row.Text(0), row.Text(3), row.Text(4), row.Text(5), row.Text(6))),
                    number, SearchStatement.List(_request.Languages))
                .OrderBy(said => PlaceOf(said.Texts.Language)),
        ];
    }

    private int PlaceOf(string language) =>
        Enumerable.Range(0, _request.Languages.Count).First(at => _request.Languages[at] == language);

    private static bool IsSaid(string text) => text.Length > 0;

    private IEnumerable<Hit> Ordered(IEnumerable<Hit> hits)
    {
        var first = _request.Order switch
        {
            SearchOrder.Newest => hits.OrderByDescending(hit => hit.Shown.Released, StringComparer.Ordinal),
            SearchOrder.Popular => hits.OrderByDescending(hit => hit.Shown.Machines),
            SearchOrder.Name => hits.OrderBy(hit => hit.Name, StringComparer.Ordinal),
            SearchOrder.Match => hits.OrderByDescending(hit => hit.Shown.Match.Weight),
        };
        return first.ThenByDescending(hit => _request.Order == SearchOrder.Match ? hit.Shown.Machines : 0)
            .ThenBy(hit => hit.Name, StringComparer.Ordinal)
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
    /// <param name="columns">Where they must be.</param>
    private IReadOnlyList<(string Word, int Distance)> Near(string word, string columns) =>
        SpellingGuess.MostWrong(word) is > 0 and var most
        ? SpellingGuess.FindNearest(
            word, _words.Near(new SpellingPattern(word, most, skipsJoints: false)).Where(near => near.Distance > 0),
            candidate => Frequency(candidate, columns) is > 0 and var times ? times
                : columns == AllColumns ? 0 : BeginningsIn(candidate, columns))
        : [];

    /// <summary>
    /// How often words begin with one that is no whole word of these columns. Not asked of a word that is frequent elsewhere:
    /// that costs much, and such a word is hardly the beginning of a name.
    /// </summary>
    private long BeginningsIn(string word, string columns) =>
        Frequency(word, AllColumns) < MostCounted ? Frequency(word, columns, isPrefix: true) : 0;

    private bool Matches(string expression) =>
        _database.Number("SELECT 1 FROM texts WHERE texts MATCH $1 LIMIT 1", expression) == 1;

    /// <summary>
    /// How often a word occurs. Which of two frequent ones is the more frequent says nothing about what was meant.
    /// </summary>
    private long Frequency(string word, string columns, bool isPrefix = false) =>
        _frequencies.TryGetValue((word, columns, isPrefix), out var known)
            ? known
            : _frequencies[(word, columns, isPrefix)] = Counted(word, columns, isPrefix);

    private long Counted(string word, string columns, bool isPrefix)
    {
        var index = SearchStatement.IndexOf(columns);
        return _database.Number(
            $"SELECT COUNT(*) FROM (SELECT 1 FROM {index} WHERE {index} MATCH $1 LIMIT $2)",
            SearchStatement.OfWord(columns, word, _request.Languages, isPrefix), (long)MostCounted);
    }

    private sealed record Hit(SearchResult Shown, string Name);
}
