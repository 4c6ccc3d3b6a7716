using System.Text.Json;
using AmberCrate.Core.Searching;

namespace AmberCrate.Engine.Catalogues;

/// <summary>The SQL of one search: a full-text match, narrowed by conditions, as many candidates as can be ranked.</summary>
internal sealed class SearchStatement
{
    private readonly List<string> _conditions = [];
    private readonly List<object?> _values = [];

    public SearchStatement(SearchRequest request, SearchQuery query, int candidates)
    {
        var filter = request.Filter;
        if (query.Words.Count > 0) Add("texts MATCH {0}", Match(query));
        Add("apps.catalogue IN (SELECT value FROM json_each({0}))", JsonArray(request.Catalogues.Select(name => name.Text)));
        if (filter.Kind is { } kind) Add("texts.kind = {0}", (int)kind);
        if (filter.ReviewedOnly) _conditions.Add("texts.reviewed = 1");
        if (filter.Category is { } category) Add("instr(' ' || texts.categories, ' ' || {0}) > 0", category);
        if (filter.Developer is { } developer) Add("instr(texts.developer, {0}) > 0", developer);
        if (filter.Licence is { } licence) Add("instr(texts.licence, ' ' || {0} || ' ') > 0", licence);
        if (filter.Installed is { } installed) Add($"apps.id {(installed ? "" : "NOT ")}IN (SELECT value FROM json_each({{0}}))", JsonArray(request.InstalledIds));
        var order = request.Order switch
        {
            SearchOrder.Newest => "texts.newest DESC",
            SearchOrder.Match when query.Words.Count > 0 => "bm25(texts, 10, 10, 10, 5, 3, 2, 1, 0.5)",
            _ => "texts.name",
        };
        Sql = $"""
            SELECT apps.catalogue, base, card, texts.newest, texts.kind, texts.reviewed, texts.id, texts.name, texts.keywords, texts.categories,
                texts.developer, texts.summary, texts.description
            FROM texts JOIN apps ON apps.number = texts.rowid JOIN catalogues ON catalogues.name = apps.catalogue
            WHERE {string.Join(" AND ", _conditions)} ORDER BY {order} LIMIT {candidates}
            """;
    }

    /// <summary>The statement: constants of this program, and places for the values.</summary>
    public string Sql { get; }

    /// <summary>The values, in order.</summary>
    public IReadOnlyList<object?> Values => _values;

    /// <summary>The identifiers of a licence expression in lower case, each between spaces.</summary>
    public static string LicenceWords(string? expression) =>
        expression is null ? "" : $" {expression.ToLowerInvariant().Replace('(', ' ').Replace(')', ' ')} ";

    /// <summary>
    /// Every word in any column, the last as a prefix, or the words run together at the beginning of a run-together name.
    /// Folded words hold letters and digits only, so that quoting them is all the escaping there is.
    /// </summary>
    private static string Match(SearchQuery query)
    {
        var words = query.Words.Select((word, number) => $"\"{word}\"{(query.IsPrefix(number) ? "*" : "")}");
        return $"({string.Join(" AND ", words)}) OR squashed : \"{query.Squashed}\"*";
    }

    /// <summary>A list as one value, which json_each takes apart again.</summary>
    private static string JsonArray(IEnumerable<string> texts) => $"[{string.Join(',', texts.Select(text => $"\"{JsonEncodedText.Encode(text)}\""))}]";

    private void Add(string condition, object value)
    {
        _values.Add(value);
        _conditions.Add(string.Format(condition, $"${_values.Count}"));
    }
}
