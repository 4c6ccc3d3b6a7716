namespace AmberCrate.Core.Searching;

/// <summary>The words and letters that a search treats in a way of its own, for those who search elsewhere than here.</summary>
public static class SearchLexicon
{
    /// <summary>Words that say nothing of an app.</summary>
    public static IEnumerable<string> Fillers => FillerWords.InEnglish.Order(StringComparer.Ordinal);

    /// <summary>Words that say nothing of an app in another language; none where there is no list for it here.</summary>
    /// <param name="language">The language, as a locale names it.</param>
    public static IEnumerable<string> FillersOf(string language) =>
        FillerWords.In(language.Split('_', '@')[0]).Order(StringComparer.Ordinal);

    /// <summary>Letters with accents, each with its plain letters.</summary>
    public static IEnumerable<(char Letter, string Plain)> Accents =>
        AccentTable.Plain.OrderBy(pair => pair.Key).Select(pair => (pair.Key, pair.Value));
}
