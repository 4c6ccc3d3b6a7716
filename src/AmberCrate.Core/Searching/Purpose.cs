namespace AmberCrate.Core.Searching;

/// <summary>What people want to do, and the apps that do it.</summary>
/// <param name="Asked">How they ask for it: phrases, folded.</param>
/// <param name="Categories">Categories whose apps do it, each folded and in one word; those that are all needed are joined by
/// <c>+</c>.</param>
/// <param name="Words">Words, or phrases, by which the name, keywords or summary tell such an app, folded; those that are all
/// needed are joined by <c>+</c>.</param>
public sealed record Purpose(IReadOnlyList<string> Asked, IReadOnlyList<string> Categories, IReadOnlyList<string> Words)
{
    /// <summary>By what its apps are told, in one text: the same for the same purpose that is asked for in another way.</summary>
    public string Signs { get; } = $"{string.Join('\n', Categories)}\n\n{string.Join('\n', Words)}";

    /// <summary>A purpose as people write it.</summary>
    public static Purpose Of(IEnumerable<string> asked, IEnumerable<string> categories, IEnumerable<string> words) => new(
        [.. asked.Select(SearchText.Fold).Where(phrase => phrase.Length > 0)],
        [.. categories.Select(all => EachOf(all, SearchText.Squash)).OfType<string>()],
        [.. words.Select(all => EachOf(all, SearchText.Fold)).OfType<string>()]);

    /// <summary>The stems of a phrase, each once, without the words that say nothing.</summary>
    public static IReadOnlyList<string> StemsOf(string phrase)
    {
        var words = phrase.Split(' ');
        var telling = words.Where(word => !FillerWords.Contains(word, null)).ToList();
        return [.. (telling.Count > 0 ? telling : [.. words]).Select(WordStem.English).Distinct()];
    }

    /// <summary>Parts that are all needed, brought to the form that is looked for; null where one of them is empty.</summary>
    private static string? EachOf(string all, Func<string, string> form)
    {
        var parts = all.Split('+').Select(form).ToList();
        return parts.TrueForAll(part => part.Length > 0) ? string.Join('+', parts) : null;
    }
}
