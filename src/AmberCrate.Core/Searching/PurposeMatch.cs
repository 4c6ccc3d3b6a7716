namespace AmberCrate.Core.Searching;

/// <summary>Whether an app is for a purpose: by its categories, or by a word in its name, keywords or summary.</summary>
internal static class PurposeMatch
{
    private const double ByCategory = 0.74, ByName = 0.88, ByText = 0.7, ByBoth = 0.08;

    /// <summary>How well; 0 where it is not.</summary>
    public static (double Score, SearchField Field) In(Purpose purpose, SearchEntry entry)
    {
        double score = 0;
        if (purpose.Categories.Any(all => all.Split('+').All(category => HasWord(entry.Categories, category)
            || HasWord(entry.Areas, category)))) score = ByCategory;
        double byWord = purpose.Words.Any(IsInName) ? ByName : purpose.Words.Any(IsInText) ? ByText : 0;
        return (score > 0 && byWord > 0 ? Math.Max(score, byWord) + ByBoth : Math.Max(score, byWord), SearchField.Purpose);

        bool IsInName(string all) => all.Split('+').All(word => HasWord(entry.Name, word) || HasWord(entry.Id, word));
        bool IsInText(string all) => all.Split('+').All(word => HasWord(entry.Keywords, word) || HasWord(entry.Summary, word)
            || HasWord(entry.Name, word) || HasWord(entry.Id, word));
    }

    private static bool HasWord(string text, string word) => WordPlace.Find(text, word).Has;
}
