using System.Text.Json;
using AmberCrate.Core.Searching;

namespace AmberCrate.Engine.Indexing;

/// <summary>What a search asks of the database: expressions for the full-text index, and conditions beside it.</summary>
/// <param name="request">The search.</param>
/// <param name="query">The words; not always those of the request.</param>
/// <param name="catalogues">The numbers of the catalogues to look in; null where that is all of them.</param>
/// <param name="namesOnly">Whether words in names are all that counts.</param>
internal sealed class SearchStatement(
    IndexQuery request, SearchQuery query, IReadOnlyList<long>? catalogues, bool namesOnly = false)
{
    /// <summary>The columns with an app's name.</summary>
    public const string NameColumns = "id name squashed localname";

    private const int LongIdWords = 3, LackingTier = 1;
    private const string AllTexts = "texts", OfNames = "names";

    /// <summary>All columns that have an app's texts.</summary>
    public const string AllColumns =
        NameColumns + " keywords types summary categories developer areas description localtext";

    // The columns of one look after the other, the most telling ones first; each look has the columns of those before it. Few
    // looks are enough: what they find is ranked afterwards.
    private static readonly string[] Tiers =
        [NameColumns, NameColumns + " keywords types summary categories developer", AllColumns];

    private readonly IReadOnlyList<string> _prefixes =
        ["", .. request.Languages.Select(LocalTexts.PrefixOf).Distinct(StringComparer.Ordinal)];

    /// <summary>
    /// Expressions that find matches of one kind after the other, the better ones first, each with the index that has what it
    /// asks for. Each finds those before it, too.
    /// </summary>
    public IEnumerable<(string Index, string? Match)> ByRank => query.Words.Count == 0 ? [(AllTexts, Narrowed(null))]
        : query.MostMissing > 0 ? [(AllTexts, Narrowed(Words(Tiers[LackingTier]))), (AllTexts, Everything)]
        :
        [
            (Names, Narrowed(Together(""))),
            .. query.Endings.Select(ending => (AllTexts, Narrowed($"types : \"{ending}\" AND {Words(AllColumns)}"))),
            (Names, Narrowed(Together(" *"))),
            .. (namesOnly ? [NameColumns] : Tiers).Select(
                columns => (columns == NameColumns ? Names : AllTexts, Narrowed(Words(columns)))),
        ];

    /// <summary>The index that has what <see cref="Everything"/> asks for.</summary>
    public string IndexOfEverything => namesOnly && query.Words.Count > 0 ? Names : AllTexts;

    /// <summary>The index that has names alone; where more than that is requested, the full index.</summary>
    private string Names => request.Filter is { Category: null, Developer: null } ? OfNames : AllTexts;

    /// <summary>The expression that finds every match.</summary>
    public string? Everything => Narrowed(query.Words.Count == 0 ? null : Words(namesOnly ? NameColumns : AllColumns));

    /// <summary>Whether more than the index is needed to tell a match.</summary>
    public bool HasConditions => request.Filter.Installed is not null || request.WithoutIds.Count > 0;

    /// <summary>The SQL that finds rows: columns of <c>apps</c> by an expression.</summary>
    /// <param name="columns">The wanted state.</param>
    /// <param name="match">The expression, or null for all apps.</param>
    public string Select(string columns, string? match) =>
        $"SELECT {columns} FROM {(match is null ? "apps" : "texts JOIN apps ON apps.place = texts.rowid")}{Where(match)}";

    /// <summary>The SQL that finds places of apps in their order, without a look at more than the index where that is
    /// enough.</summary>
    /// <param name="match">The expression, or null for all apps.</param>
    /// <param name="index">The index that has what it asks for.</param>
    public string SelectPlaces(string? match, string index) => match is null || HasConditions
        ? $"{Select("apps.place", match)} ORDER BY {(match is null ? "apps.place" : "texts.rowid")}"
        : $"SELECT rowid FROM {index} WHERE {index} MATCH $1 ORDER BY rowid";

    /// <summary>The values of <see cref="Select"/>.</summary>
    public object?[] Values(string? match) =>
        [match, request.Filter.Installed is null ? null : List(request.InstalledIds),
            request.WithoutIds.Count == 0 ? null : List(request.WithoutIds)];

    private string Where(string? match)
    {
        var conditions = new List<string>();
        if (match is not null) conditions.Add("texts MATCH $1");
        if (request.Filter.Installed is { } installed)
            conditions.Add($"apps.app {(installed ? "" : "NOT ")}IN (SELECT value FROM json_each($2))");
        if (request.WithoutIds.Count > 0) conditions.Add("apps.app NOT IN (SELECT value FROM json_each($3))");
        return conditions.Count == 0 ? "" : $" WHERE {string.Join(" AND ", conditions)}";
    }

    /// <summary>The index that has some columns.</summary>
    public static string IndexOf(string columns) => columns == NameColumns ? OfNames : AllTexts;

    /// <summary>An expression for a word in some columns, in any of the languages.</summary>
    /// <param name="columns">The columns.</param>
    /// <param name="word">The word, folded: it holds letters and digits only, so that quoting it is all the escaping there
    /// is.</param>
    /// <param name="languages">The languages of the user.</param>
    /// <param name="isPrefix">Whether words that begin with it count too.</param>
    public static string OfWord(string columns, string word, IReadOnlyList<string> languages, bool isPrefix = false)
    {
        var ending = isPrefix ? " *" : "";
        var words = languages.Select(LocalTexts.PrefixOf).Prepend("").Distinct().Select(mark => $"\"{mark}{word}\"{ending}");
        return $"{{{columns}}} : ({string.Join(" OR ", words)})";
    }

    /// <summary>A list of texts as JSON.</summary>
    public static string List(IEnumerable<string> ids) => $"[{string.Join(',', ids.Select(text => $"\"{Quoted(text)}\""))}]";

    // The encoder takes half a millisecond to be made, and ids and words hardly ever need it.
    private static string Quoted(string text) =>
        text.All(letter => char.IsAsciiLetterOrDigit(letter) || letter is '.' or '-') ? text : JsonEncodedText.Encode(text).Value;

    /// <summary>
    /// Every word in any of the columns, the last as a prefix, or the words run together at the beginning of a run-together
    /// name; for any reading of the query.
    /// </summary>
    private string Words(string columns)
    {
        var readings = query.Readings
            .Where(reading => reading.Purpose is null || columns != NameColumns)
            .Select(reading => $"({OfReading(reading, columns)})");
        var together = query.Readings.Any(reading => reading.Squashed.Length > 0 && reading.Words.Count > 1)
            ? [$"({Together(" *")})"]
            : Array.Empty<string>();
        return $"({string.Join(" OR ", readings.Concat(together))})";
    }

    private string OfReading(SearchReading reading, string columns)
    {
        var words = reading.Words.Select((word, at) => $"({{{columns}}} : ({Forms(reading, word, at)}))").ToList();
        var parts = new List<string>();
        var mayAllBeMissing = reading.Purpose is not null && words.Count <= query.MostMissing;
        if (words.Count > 0 && !mayAllBeMissing) parts.Add(AllBut(words, query.MostMissing));
        if (reading.Purpose is { } purpose) parts.Add(OfPurpose(purpose));
        return string.Join(" AND ", parts.Select(part => $"({part})"));
    }

    /// <summary>All of some conditions; so many of them may fail.</summary>
    private static string AllBut(List<string> conditions, int mayFail)
    {
        var needed = Math.Max(1, conditions.Count - mayFail);
        return string.Join(" OR ", Choices(0, needed).Select(choice => $"({string.Join(" AND ", choice)})"));

        IEnumerable<IEnumerable<string>> Choices(int from, int count) => count == 0
            ? [[]]
            : Enumerable.Range(from, conditions.Count - count - from + 1)
                .SelectMany(first => Choices(first + 1, count - 1).Select(others => others.Prepend(conditions[first])));
    }

    private string Forms(SearchReading reading, string word, int at) => string.Join(
        " OR ",
        _prefixes.SelectMany(mark => query.FactsOf(word).Forms.Select(form => $"\"{mark}{form}\"")
            .Concat(ListForms(word, mark, query.IsPrefix(reading, at))).Distinct()));

    /// <summary>A word, or what begins with it: the words themselves where they are known.</summary>
    private IEnumerable<string> ListForms(string word, string mark, bool isPrefix) => !isPrefix ? [$"\"{mark}{word}\""]
        : mark.Length == 0 && query.FactsOf(word).Beginning is { } words ? words.Prepend(word).Select(known => $"\"{known}\"")
        : [$"\"{mark}{word}\" *"];

    private static string OfPurpose(Purpose purpose)
    {
        var categories = purpose.Categories.Select(
            all => $"({string.Join(" AND ", all.Split('+').Select(category => $"{{categories areas}} : \"{category}\""))})");

        // The index knows which texts have a word, not where: whether the words of a phrase stand together is seen later.
        var words = purpose.Words.Select(all => string.Join(" AND ", all.Split(' ', '+').Select(word => $"\"{word}\"")))
            .Select(all => $"{{id name keywords summary}} : ({all})");
        return string.Join(" OR ", categories.Concat(words));
    }

    /// <summary>The words of a reading in one, as a name is when its words are run together; or as a whole id.</summary>
    private string Together(string suffix)
    {
        var readings = query.Readings.Where(reading => reading.Squashed.Length > 0).ToList();
        var ending = readings.All(reading => (reading.Squashed is [var only] && char.IsAscii(only))
            || query.Endings.Contains(reading.Squashed)) ? "" : suffix;
        var names = readings.Select(reading => reading.Squashed).Distinct()
            .Select(text => $"squashed : ({string.Join(" OR ", ListForms(text, "", ending.Length > 0))})");
        var local = _prefixes.Skip(1).SelectMany(
            mark => readings.Select(reading => $"localname : \"{mark}{reading.Squashed}\"{ending}"));
        var ids = query.Words.Count >= LongIdWords
            ? [$"marks : \"{FilterTokens.OfId(query.Readings[0].Squashed)}\"{ending}"]
            : Array.Empty<string>();
        return string.Join(" OR ", names.Concat(local).Concat(ids).DefaultIfEmpty("marks : \"\""));
    }

    private string? Narrowed(string? match)
    {
        var filter = request.Filter;
        var parts = new List<string>();
        if (match is not null) parts.Add(match);
        if (filter.Kind is { } kind) parts.Add($"marks : {FilterTokens.OfKind(kind)}");
        if (filter.ReviewedOnly) parts.Add($"marks : {FilterTokens.Reviewed}");
        if (filter.Licence is { } licence) parts.Add($"marks : {FilterTokens.OfLicence(licence)}");
        if (filter.Category is { } category) parts.AddRange(Beginnings("{categories areas}", category));
        if (filter.Developer is { } developer) parts.AddRange(Beginnings("developer", developer));
        if (catalogues is not null) parts.Add($"marks : ({string.Join(" OR ", catalogues.Select(FilterTokens.OfCatalogue))})");
        return parts.Count == 0 ? null : string.Join(" AND ", parts.Select(part => $"({part})"));
    }

    private static IEnumerable<string> Beginnings(string columns, string folded) =>
        folded.Split(' ').Select(word => $"{columns} : \"{word}\" *");
}
