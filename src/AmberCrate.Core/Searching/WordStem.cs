using System.Buffers;

namespace AmberCrate.Core.Searching;

/// <summary>The stems that the forms of a word share. Those of other languages than English carry their language.</summary>
public static class WordStem
{
    private static readonly SearchValues<char> Vowels = SearchValues.Create("aeiouy");

    /// <summary>The stem of a folded word in English.</summary>
    /// <remarks>An abbreviation loses its s too, which the published algorithm leaves: <c>dvds</c>.</remarks>
    public static string English(string word) =>
        word.Length > 2 && word[^1] == 's' && word[^2] != 's' && !word.AsSpan().ContainsAny(Vowels)
            && word.All(char.IsAsciiLetter) ? word[..^1] : EnglishStemmer.Stem(word);

    /// <summary>Whether there are rules here for a language other than English.</summary>
    public static bool HasRules(string language) => LightStemmers.Stem(language.Split('_', '@')[0], "") is not null;

    /// <summary>The stem of a folded word in a language; null where there are no rules for it here.</summary>
    /// <param name="word">The word.</param>
    /// <param name="language">The language, as a locale names it.</param>
    public static string? Local(string word, string language)
    {
        var code = language.Split('_', '@')[0];
        return LightStemmers.Stem(code, word) is { } stem ? LocalTexts.PrefixOf(code) + stem : null;
    }
}
