namespace AmberCrate.Core.Searching;

/// <summary>
/// Ranks an app for a query. What decides, in this order: whether letters had to be taken for wrong, and how many; the
/// weakest field that was needed to find every word (the order of <see cref="SearchField"/>); reviewed before unreviewed;
/// apps before runtimes and fonts. What is equal in all that is ordered by name. A pure function of query and entry, so that the
/// same question gets the same order everywhere.
/// </summary>
public static class SearchRanking
{
    private const int PerLetterWrong = 100_000, PerField = 1000, ForReview = 400, ForApps = 200;

    /// <summary>Judges one app; null when a word of the query is found nowhere in it.</summary>
    public static SearchMatch? Judge(SearchQuery query, SearchEntry entry)
    {
        if (query.Words.Count == 0) return null;
        SearchField? best = null;
        foreach (var reading in query.Readings)
        {
            if ((OfName(query, reading, entry) ?? OfWords(query, reading, entry)) is { } field && !(best <= field)) best = field;
        }

        return best is null ? null : new SearchMatch(best.Value, Weight(query, best.Value, entry), query.Distance > 0);
    }

    /// <summary>The order of an app among those that were not looked for by any word.</summary>
    public static SearchMatch Listed(SearchEntry entry) =>
        new(SearchField.Category, Weight(SearchQuery.Of([]), SearchField.Category, entry));

    private static SearchField? OfName(SearchQuery query, SearchReading reading, SearchEntry entry)
    {
        var id = SearchEntry.RunTogether(entry.Id);
        var name = SearchEntry.RunTogether(entry.Name);
        if (reading.Squashed == id || reading.Squashed == name) return SearchField.WholeName;
        if (id.StartsWith(reading.Squashed, StringComparison.Ordinal)
            || name.StartsWith(reading.Squashed, StringComparison.Ordinal)) return SearchField.NameStart;
        for (var at = 0; at < reading.Words.Count; at++)
        {
            var (word, isPrefix) = (reading.Words[at], query.IsPrefix(reading, at));
            if (!Has(entry.Id, word, isPrefix) && !Has(entry.Name, word, isPrefix)) return null;
        }

        return SearchField.NameWords;
    }

    /// <summary>The weakest of the fields that it takes to find every word.</summary>
    private static SearchField? OfWords(SearchQuery query, SearchReading reading, SearchEntry entry)
    {
        var weakest = SearchField.WholeName;
        for (var at = 0; at < reading.Words.Count; at++)
        {
            if (FieldOf(reading.Words[at], query.IsPrefix(reading, at), entry) is not { } field) return null;
            if (field > weakest) weakest = field;
        }

        return weakest;
    }

    private static SearchField? FieldOf(string word, bool isPrefix, SearchEntry entry)
    {
        if (Has(entry.Id, word, isPrefix) || Has(entry.Name, word, isPrefix) || Has(entry.Squashed, word, isPrefix))
            return SearchField.NameWords;
        if (Has(entry.Keywords, word, isPrefix)) return SearchField.Keyword;
        if (Has(entry.Categories, word, isPrefix)) return SearchField.Category;
        if (Has(entry.Developer, word, isPrefix)) return SearchField.Developer;
        if (Has(entry.Summary, word, isPrefix)) return SearchField.Summary;
        return Has(entry.Description, word, isPrefix) ? SearchField.Description : null;
    }

    /// <summary>Whether a text has this word, or where that is enough one that begins with it.</summary>
    private static bool Has(string text, string word, bool isPrefix)
    {
        for (var at = text.IndexOf(word, StringComparison.Ordinal); at >= 0; at = text.IndexOf(
            word, at + 1, StringComparison.Ordinal))
        {
            var begins = at == 0 || text[at - 1] == ' ';
            var ends = at + word.Length == text.Length || text[at + word.Length] == ' ';
            if (begins && (ends || isPrefix)) return true;
        }

        return false;
    }

    private static int Weight(SearchQuery query, SearchField field, SearchEntry entry) =>
        ((SearchField.Description - field) * PerField)
        - (query.Distance * PerLetterWrong)
        + (entry.Reviewed ? ForReview : 0)
        + (entry.IsApp ? ForApps : 0);
}
