namespace AmberCrate.Core.Searching;

/// <summary>
/// Ranks an app for a query. What decides, in this order: whether letters had to be taken for wrong, and how many; the
/// weakest field that was needed to find every word (the order of <see cref="SearchField"/>); reviewed before unreviewed;
/// apps before runtimes and fonts. What is equal in all that is ordered by name. A pure function of query and entry, so that the same question
/// gets the same order everywhere.
/// </summary>
public static class SearchRanking
{
    private const int PerLetterWrong = 100_000, PerField = 1000, ForReview = 400, ForApps = 200;

    /// <summary>Judges one app; null when a word of the query is found nowhere in it.</summary>
    public static SearchMatch? Judge(SearchQuery query, SearchEntry entry)
    {
        if (query.Words.Count == 0) return null;
        var field = OfName(query, entry) ?? OfWords(query, entry);
        return field is null ? null : new SearchMatch(field.Value, Weight(query, field.Value, entry), query.Distance > 0);
    }

    /// <summary>The order of an app among those that were not looked for by any word.</summary>
    public static SearchMatch Listed(SearchEntry entry) => new(SearchField.Category, Weight(SearchQuery.Of([]), SearchField.Category, entry));

    private static SearchField? OfName(SearchQuery query, SearchEntry entry)
    {
        var id = SearchEntry.RunTogether(entry.Id);
        var name = SearchEntry.RunTogether(entry.Name);
        if (query.Squashed == id || query.Squashed == name) return SearchField.WholeName;
        if (id.StartsWith(query.Squashed, StringComparison.Ordinal) || name.StartsWith(query.Squashed, StringComparison.Ordinal)) return SearchField.NameStart;
        for (var word = 0; word < query.Words.Count; word++)
        {
            if (!Has(entry.Id, query, word) && !Has(entry.Name, query, word)) return null;
        }

        return SearchField.NameWords;
    }

    /// <summary>The weakest of the fields that it takes to find every word.</summary>
    private static SearchField? OfWords(SearchQuery query, SearchEntry entry)
    {
        var weakest = SearchField.WholeName;
        for (var word = 0; word < query.Words.Count; word++)
        {
            if (FieldOf(query, word, entry) is not { } field) return null;
            if (field > weakest) weakest = field;
        }

        return weakest;
    }

    private static SearchField? FieldOf(SearchQuery query, int word, SearchEntry entry)
    {
        if (Has(entry.Id, query, word) || Has(entry.Name, query, word) || Has(entry.Squashed, query, word)) return SearchField.NameWords;
        if (Has(entry.Keywords, query, word)) return SearchField.Keyword;
        if (Has(entry.Categories, query, word)) return SearchField.Category;
        if (Has(entry.Developer, query, word)) return SearchField.Developer;
        if (Has(entry.Summary, query, word)) return SearchField.Summary;
        return Has(entry.Description, query, word) ? SearchField.Description : null;
    }

    /// <summary>Whether the text has a word that is, or where that is enough begins with, a word of the query.</summary>
    private static bool Has(string text, SearchQuery query, int number)
    {
        var word = query.Words[number];
        for (var at = text.IndexOf(word, StringComparison.Ordinal); at >= 0; at = text.IndexOf(word, at + 1, StringComparison.Ordinal))
        {
            var begins = at == 0 || text[at - 1] == ' ';
            var ends = at + word.Length == text.Length || text[at + word.Length] == ' ';
            if (begins && (ends || query.IsPrefix(number))) return true;
        }

        return false;
    }

    private static int Weight(SearchQuery query, SearchField field, SearchEntry entry) =>
        ((SearchField.Description - field) * PerField)
        - (query.Distance * PerLetterWrong)
        + (entry.Reviewed ? ForReview : 0)
        + (entry.IsApp ? ForApps : 0);
}
