namespace AmberCrate.Core.Searching;

/// <summary>What people want to do, and the apps that do it.</summary>
/// <param name="Asked">How they ask for it: phrases, folded.</param>
/// <param name="Categories">Categories whose apps do it, each folded and in one word; those that are all needed are joined by
/// <c>+</c>.</param>
/// <param name="Words">Words, or phrases, in the name, keywords or summary of such an app, folded; those that are all
/// needed are joined by <c>+</c>.</param>
public sealed record Purpose(IReadOnlyList<string> Asked, IReadOnlyList<string> Categories, IReadOnlyList<string> Words)
{
    /// <summary>
    /// Stems of words that mean the same when people say what an app is for, each with the stem to use instead.
    /// </summary>
    public static IReadOnlyDictionary<string, string> Synonyms { get; } = new Dictionary<string, string>(StringComparer.Ordinal)
    {
        ["reader"] = "viewer", ["movi"] = "film", ["pictur"] = "imag",
    };

    /// <summary>What identifies its apps, as one text. Two with the same key are one purpose, asked for in two ways.</summary>
    public string Key { get; } = $"{string.Join('\n', Categories)}\n\n{string.Join('\n', Words)}";

    /// <summary>A purpose as people write it.</summary>
    public static Purpose Create(IEnumerable<string> asked, IEnumerable<string> categories, IEnumerable<string> words) => new(
        [.. asked.Select(SearchText.Fold).Where(phrase => phrase.Length > 0)],
        [.. categories.Select(all => EachOf(all, SearchText.Squash)).OfType<string>()],
        [.. words.Select(all => EachOf(all, SearchText.Fold)).OfType<string>()]);

    /// <summary>The stems of a phrase, each once, without the words that say nothing.</summary>
    public static IReadOnlyList<string> StemsOf(string phrase)
    {
        var words = phrase.Split(' ');
        var telling = words.Where(word => !FillerWords.Contains(word, null)).ToList();
        return [.. (telling.Count > 0 ? telling : [.. words]).Select(StemOf).Distinct()];
    }

    /// <summary>The stem of a word in a phrase: that of a word that means the same, such as viewer for reader.</summary>
    /// <param name="word">The word, folded.</param>
    public static string StemOf(string word)
    {
        var stem = WordStem.English(word);
        return Synonyms.GetValueOrDefault(stem, stem);
    }

    /// <summary>
    /// Parts that are all needed, each in the form that is looked for; null if one of them is empty. Two <c>+</c> in a row
    /// separate nothing: they belong to a word such as <c>c++</c>.
    /// </summary>
    private static string? EachOf(string all, Func<string, string> form)
    {
        const string pair = "++", kept = "\0";
        var parts = all.Replace(pair, kept, StringComparison.Ordinal).Split('+')
            .Select(part => form(part.Replace(kept, pair, StringComparison.Ordinal))).ToList();
        return parts.TrueForAll(part => part.Length > 0) ? string.Join('+', parts) : null;
    }
}
