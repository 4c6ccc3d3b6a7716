using System.Buffers;

namespace AmberCrate.Core.Searching;

/// <summary>
/// Brings the forms of an English word to one stem: <c>editors</c> and <c>editor</c>, <c>burning</c> and <c>burn</c>. Source:
/// M. F. Porter's "English (Porter2) stemming algorithm" of the Snowball project, without the step for apostrophes, which folded
/// words do not have.
/// </summary>
internal static class EnglishStemmer
{
    private const int ShortestStemmed = 3;

    private static readonly SearchValues<char> Vowels = SearchValues.Create("aeiouy");

    private static readonly Dictionary<string, string> Exceptions = new(StringComparer.Ordinal)
    {
        ["skis"] = "ski", ["skies"] = "sky", ["dying"] = "die", ["lying"] = "lie", ["tying"] = "tie", ["idly"] = "idl",
        ["gently"] = "gentl", ["ugly"] = "ugli", ["early"] = "earli", ["only"] = "onli", ["singly"] = "singl", ["sky"] = "sky",
        ["news"] = "news", ["howe"] = "howe", ["atlas"] = "atlas", ["cosmos"] = "cosmos", ["bias"] = "bias", ["andes"] = "andes",
    };

    private static readonly string[] Kept =
        ["inning", "outing", "canning", "herring", "earring", "proceed", "exceed", "succeed"];

    private static readonly (string Ending, string With)[] Second =
    [
        ("ational", "ate"), ("ization", "ize"), ("fulness", "ful"), ("ousness", "ous"), ("iveness", "ive"), ("tional", "tion"),
        ("biliti", "ble"), ("lessli", "less"), ("entli", "ent"), ("ation", "ate"), ("alism", "al"), ("aliti", "al"),
        ("ousli", "ous"), ("iviti", "ive"), ("fulli", "ful"), ("enci", "ence"), ("anci", "ance"), ("abli", "able"),
        ("izer", "ize"), ("ator", "ate"), ("alli", "al"), ("bli", "ble"), ("ogi", "og"), ("li", ""),
    ];

    private static readonly (string Ending, string With)[] Third =
    [
        ("ational", "ate"), ("tional", "tion"), ("alize", "al"), ("icate", "ic"), ("iciti", "ic"), ("ative", ""), ("ical", "ic"),
        ("ness", ""), ("ful", ""),
    ];

    private static readonly string[] Fourth =
    [
        "ement", "ance", "ence", "able", "ible", "ment", "ant", "ent", "ism", "ate", "iti", "ous", "ive", "ize", "ion", "al",
        "er", "ic",
    ];

    /// <summary>The stem of a folded word of Latin letters.</summary>
    public static string Stem(string word)
    {
        if (word.Length < ShortestStemmed || !word.All(char.IsAsciiLetterLower)) return word;
        if (Exceptions.TryGetValue(word, out var exception)) return exception;
        var stem = MarkedY(word);
        var first = FirstRegion(stem);
        var second = RegionFrom(stem, first);
        stem = Step1A(stem);
        if (Kept.Contains(stem)) return stem;
        stem = Step1B(stem, first);
        stem = Step1C(stem);
        stem = Replaced(stem, Second, first, IsSecondAllowed);
        stem = Replaced(stem, Third, first, (text, ending) => ending != "ative" || text.Length - ending.Length >= second);
        stem = Step4(stem, second);
        return Step5(stem, first, second).Replace('Y', 'y');
    }

    private static bool IsVowel(char letter) => letter is 'a' or 'e' or 'i' or 'o' or 'u' or 'y';

    /// <summary>A y that is a consonant: at the beginning and behind a vowel.</summary>
    private static string MarkedY(string word) => string.Create(word.Length, word, (letters, from) =>
    {
        from.CopyTo(letters);
        for (var at = 0; at < letters.Length; at++)
        {
            if (letters[at] == 'y' && (at == 0 || IsVowel(letters[at - 1]))) letters[at] = 'Y';
        }
    });

    private static int FirstRegion(string word)
    {
        foreach (var beginning in (string[])["gener", "commun", "arsen"])
        {
            if (word.StartsWith(beginning, StringComparison.Ordinal)) return beginning.Length;
        }

        return RegionFrom(word, 0);
    }

    /// <summary>The place behind the first consonant that follows a vowel.</summary>
    private static int RegionFrom(string word, int from)
    {
        for (var at = from + 1; at < word.Length; at++)
        {
            if (!IsVowel(word[at]) && IsVowel(word[at - 1])) return at + 1;
        }

        return word.Length;
    }

    private static bool Ends(string word, string ending) => word.EndsWith(ending, StringComparison.Ordinal);

    private static bool HasVowel(string word, int length) => word.AsSpan(0, length).ContainsAny(Vowels);

    private static string Step1A(string word)
    {
        if (Ends(word, "sses")) return word[..^2];
        if (Ends(word, "ied") || Ends(word, "ies")) return word.Length > 4 ? word[..^2] : word[..^1];
        if (Ends(word, "us") || Ends(word, "ss")) return word;
        return Ends(word, "s") && word.Length > 2 && HasVowel(word, word.Length - 2) ? word[..^1] : word;
    }

    private static string Step1B(string word, int first)
    {
        foreach (var ending in (string[])["eedly", "ingly", "edly", "eed", "ing", "ed"])
        {
            if (!Ends(word, ending)) continue;
            var length = word.Length - ending.Length;
            if (ending.StartsWith("eed", StringComparison.Ordinal)) return length >= first ? word[..(length + 2)] : word;
            if (!HasVowel(word, length)) return word;
            var left = word[..length];
            if (Ends(left, "at") || Ends(left, "bl") || Ends(left, "iz")) return left + "e";
            if (IsDoubled(left)) return left[..^1];
            return IsShort(left, first) ? left + "e" : left;
        }

        return word;
    }

    private static bool IsDoubled(string word) =>
        word.Length > 1 && word[^1] == word[^2] && "bdfgmnprt".Contains(word[^1], StringComparison.Ordinal);

    /// <summary>A word whose first region is empty and which ends in a short syllable.</summary>
    private static bool IsShort(string word, int first)
    {
        if (first < word.Length) return false;
        if (word.Length == 2) return IsVowel(word[0]) && !IsVowel(word[1]);
        return word.Length > 2 && !IsVowel(word[^1]) && word[^1] is not ('w' or 'x' or 'Y') && IsVowel(word[^2])
            && !IsVowel(word[^3]);
    }

    private static string Step1C(string word) =>
        word.Length > 2 && word[^1] is 'y' or 'Y' && !IsVowel(word[^2]) ? word[..^1] + "i" : word;

    private static bool IsSecondAllowed(string word, string ending) => ending switch
    {
        "ogi" => word.Length > 3 && word[^4] == 'l',
        "li" => word.Length > 2 && "cdeghkmnrt".Contains(word[^3], StringComparison.Ordinal),
        _ => true,
    };

    /// <summary>The longest ending that fits is replaced, where it is in the first region.</summary>
    private static string Replaced(
        string word, (string Ending, string With)[] endings, int first, Func<string, string, bool> isAllowed)
    {
        foreach (var (ending, with) in endings)
        {
            if (!Ends(word, ending)) continue;
            return word.Length - ending.Length >= first && isAllowed(word, ending) ? word[..^ending.Length] + with : word;
        }

        return word;
    }

    private static string Step4(string word, int second)
    {
        foreach (var ending in Fourth)
        {
            if (!Ends(word, ending)) continue;
            var length = word.Length - ending.Length;
            return length >= second && (ending != "ion" || (length > 0 && word[length - 1] is 's' or 't'))
                ? word[..length]
                : word;
        }

        return word;
    }

    private static string Step5(string word, int first, int second)
    {
        if (Ends(word, "e"))
            return word.Length - 1 >= second || (word.Length - 1 >= first && !EndsInShortSyllable(word[..^1]))
                ? word[..^1]
                : word;
        return Ends(word, "ll") && word.Length - 1 >= second ? word[..^1] : word;
    }

    private static bool EndsInShortSyllable(string word) => IsShort(word, word.Length);
}
