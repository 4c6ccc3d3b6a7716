using AmberCrate.Core.Cards;

namespace AmberCrate.Core.Searching;

/// <summary>
/// Ranks an app for a query: first by the best field that holds the whole query, then by how many words a weaker
/// field had to supply, then reviewed before unreviewed, apps before runtimes and fonts, short names before long.
/// A pure function of query and entry, so that the same question gets the same order everywhere.
/// </summary>
public static class SearchRanking
{
    /// <summary>Judges one app; null when a word of the query is found nowhere in it.</summary>
    public static SearchMatch? Judge(SearchQuery query, SearchEntry entry)
    {
        if (query.Words.Count == 0) return null;
        var field = OfName(query, entry);
        if (field is null && OfWords(query, entry) is { } words) field = words;
        return field is null ? null : new SearchMatch(field.Value, Weight(field.Value, entry));
    }

    private static SearchField? OfName(SearchQuery query, SearchEntry entry)
    {
        var id = entry.Id.Replace(" ", "", StringComparison.Ordinal);
        var name = entry.Name.Replace(" ", "", StringComparison.Ordinal);
        if (query.Squashed == id || query.Squashed == name) return SearchField.WholeName;
        if (id.StartsWith(query.Squashed, StringComparison.Ordinal) || name.StartsWith(query.Squashed, StringComparison.Ordinal)) return SearchField.NameStart;
        return query.Words.All(word => HasWord(entry.Id, word) || HasWord(entry.Name, word)) ? SearchField.NameWords : null;
    }

    /// <summary>The weakest of the fields that it takes to find every word.</summary>
    private static SearchField? OfWords(SearchQuery query, SearchEntry entry)
    {
        var weakest = SearchField.WholeName;
        foreach (var word in query.Words)
        {
            if (FieldOf(word, entry) is not { } field) return null;
            if (field > weakest) weakest = field;
        }

        return weakest;
    }

    private static SearchField? FieldOf(string word, SearchEntry entry)
    {
        if (HasWord(entry.Id, word) || HasWord(entry.Name, word) || HasWord(entry.Squashed, word)) return SearchField.NameWords;
        if (HasWord(entry.Keywords, word)) return SearchField.Keyword;
        if (HasWord(entry.Categories, word)) return SearchField.Category;
        if (HasWord(entry.Developer, word)) return SearchField.Developer;
        return HasWord(entry.Summary, word) ? SearchField.Summary : null;
    }

    /// <summary>Whether a word of the text begins with this one.</summary>
    private static bool HasWord(string text, string word)
    {
        for (var at = text.IndexOf(word, StringComparison.Ordinal); at >= 0; at = text.IndexOf(word, at + 1, StringComparison.Ordinal))
        {
            if (at == 0 || text[at - 1] == ' ') return true;
        }

        return false;
    }

    private static int Weight(SearchField field, SearchEntry entry) =>
        ((SearchField.Summary - field) * 1000)
        + (entry.Reviewed ? 400 : 0)
        + (entry.Kind is AppKind.DesktopApp or AppKind.ConsoleApp ? 200 : 0)
        - Math.Min(entry.Name.Length, 100);
}
