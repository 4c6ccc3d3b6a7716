using System.Text.Json;
using AmberCrate.Core.Searching;

namespace AmberCrate.Engine.Catalogues;

/// <summary>What a search asks of the database: expressions for the full-text index, and conditions beside it.</summary>
/// <param name="request">The search.</param>
/// <param name="query">The words; not always those of the request.</param>
/// <param name="catalogues">The numbers of the catalogues to look in; null where that is all of them.</param>
/// <param name="namesOnly">Whether words in names are all that counts.</param>
internal sealed class SearchStatement(
    SearchRequest request, SearchQuery query, IReadOnlyList<long>? catalogues, bool namesOnly = false)
{
    /// <summary>The columns in which an app's name is.</summary>
    public const string NameColumns = "id name squashed";
    private const string AllColumns = NameColumns + " keywords categories developer summary description";

    // From the most telling part of a card on, each with those before it: the order of SearchField.
    private static readonly string[] Tiers =
        [
            NameColumns, NameColumns + " keywords", NameColumns + " keywords categories",
            NameColumns + " keywords categories developer", NameColumns + " keywords categories developer summary", AllColumns,
        ];

    /// <summary>
    /// Expressions that find matches of one kind after the other, the better ones first. Each finds those before it, too.
    /// </summary>
    public IEnumerable<string?> ByRank => query.Words.Count == 0 ? [Narrowed(null)] :
        [
            Narrowed(Together("")), Narrowed(Together(" *")),
            .. (namesOnly ? [NameColumns] : Tiers).Select(columns => Narrowed(Words(columns))),
        ];

    /// <summary>The expression that finds every match.</summary>
    public string? Everything => Narrowed(query.Words.Count == 0 ? null : Words(namesOnly ? NameColumns : AllColumns));

    /// <summary>Whether more than the index is needed to tell a match.</summary>
    public bool HasConditions => request.Filter.Installed is not null || request.WithoutIds.Count > 0;

    /// <summary>The SQL that finds rows: columns of <c>apps</c> by an expression.</summary>
    /// <param name="columns">What is wanted.</param>
    /// <param name="match">The expression, or null for all apps.</param>
    public string Select(string columns, string? match)
    {
        var conditions = new List<string>();
        if (match is not null) conditions.Add("texts MATCH $1");
        if (request.Filter.Installed is { } installed)
            conditions.Add($"apps.app {(installed ? "" : "NOT ")}IN (SELECT value FROM json_each($2))");
        if (request.WithoutIds.Count > 0) conditions.Add("apps.app NOT IN (SELECT value FROM json_each($3))");
        var where = conditions.Count == 0 ? "" : $" WHERE {string.Join(" AND ", conditions)}";
        return $"SELECT {columns} FROM {(match is null ? "apps" : "texts JOIN apps ON apps.place = texts.rowid")}{where}";
    }

    /// <summary>The values of <see cref="Select"/>.</summary>
    public object?[] Values(string? match) =>
        [match, request.Filter.Installed is null ? null : List(request.InstalledIds),
            request.WithoutIds.Count == 0 ? null : List(request.WithoutIds)];

    private static string List(IEnumerable<string> ids) =>
        $"[{string.Join(',', ids.Select(text => $"\"{JsonEncodedText.Encode(text)}\""))}]";

    /// <summary>
    /// Every word in any of the columns, the last as a prefix, or the words run together at the beginning of a run-together
    /// name; for any reading of the query. Folded words hold letters and digits only, so that quoting them is all the escaping
    /// there is.
    /// </summary>
    private string Words(string columns)
    {
        var readings = query.Readings.Select(
            reading => $"({string.Join(" AND ", reading.Words.Select((word, at) => Word(reading, word, at)))})");
        return $"(({{{columns}}} : ({string.Join(" OR ", readings)})) OR ({Together(" *")}))";

        string Word(SearchReading reading, string word, int at) => $"\"{word}\"{(query.IsPrefix(reading, at) ? " *" : "")}";
    }

    /// <summary>The words of a reading in one, as a name is when its words are run together.</summary>
    private string Together(string suffix) =>
        $"squashed : ({string.Join(" OR ", query.Readings.Select(reading => $"\"{reading.Squashed}\"{suffix}").Distinct())})";

    private string? Narrowed(string? match)
    {
        var filter = request.Filter;
        var parts = new List<string>();
        if (match is not null) parts.Add(match);
        if (filter.Kind is { } kind) parts.Add($"marks : {SearchMarks.OfKind(kind)}");
        if (filter.ReviewedOnly) parts.Add($"marks : {SearchMarks.Reviewed}");
        if (filter.Licence is { } licence) parts.Add($"marks : {SearchMarks.OfLicence(licence)}");
        if (filter.Category is { } category) parts.AddRange(Beginnings("categories", category));
        if (filter.Developer is { } developer) parts.AddRange(Beginnings("developer", developer));
        if (catalogues is not null) parts.Add($"marks : ({string.Join(" OR ", catalogues.Select(SearchMarks.OfCatalogue))})");
        return parts.Count == 0 ? null : string.Join(" AND ", parts.Select(part => $"({part})"));
    }

    private static IEnumerable<string> Beginnings(string column, string folded) =>
        folded.Split(' ').Select(word => $"{column} : \"{word}\" *");
}
