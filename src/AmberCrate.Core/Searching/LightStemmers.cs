namespace AmberCrate.Core.Searching;

/// <summary>
/// Takes the endings of number, gender and case off words of a few languages, so that their forms meet. Source: J. Savoy, "Light
/// stemming approaches for the French, Portuguese, German and Hungarian languages", 2006, and the stemmer for Spanish of the
/// same hand; here on folded words, which have no accents.
/// </summary>
internal static class LightStemmers
{
    private const int Shortest = 5, ShortestStem = 4;

    /// <summary>The stem of a folded word; null for languages that have no rules here.</summary>
    /// <param name="language">The language's code, such as <c>de</c>.</param>
    /// <param name="word">The word.</param>
    public static string? Stem(string language, string word) => language switch
    {
        not ("de" or "fr" or "es") => null,
        _ when word.Length < Shortest => word,
        "de" => German(word),
        "fr" => French(word),
        _ => Spanish(word),
    };

    private static string German(string word)
    {
        foreach (var ending in (string[])["ern", "em", "en", "er", "es", "e"])
        {
            if (word.EndsWith(ending, StringComparison.Ordinal) && word.Length - ending.Length >= ShortestStem)
                return word[..^ending.Length];
        }

        return word[^1] is 's' or 'n' ? word[..^1] : word;
    }

    private static string French(string word)
    {
        if (word.EndsWith("eaux", StringComparison.Ordinal)) return word[..^1];
        if (word.EndsWith("aux", StringComparison.Ordinal)) return word[..^2] + "l";
        var stem = word[^1] is 's' or 'x' ? word[..^1] : word;
        if (stem.Length >= Shortest && stem.EndsWith("er", StringComparison.Ordinal)) stem = stem[..^2];
        while (stem.Length > ShortestStem && stem[^1] == 'e') stem = stem[..^1];
        return stem.Length > ShortestStem && stem[^1] == stem[^2] ? stem[..^1] : stem;
    }

    private static string Spanish(string word)
    {
        if (word.EndsWith("eses", StringComparison.Ordinal)) return word[..^2];
        if (word.EndsWith("ces", StringComparison.Ordinal)) return word[..^3] + "z";
        if (word.EndsWith("os", StringComparison.Ordinal) || word.EndsWith("as", StringComparison.Ordinal)
            || word.EndsWith("es", StringComparison.Ordinal)) return word[..^2];
        return word[^1] is 'o' or 'a' or 'e' ? word[..^1] : word;
    }
}
