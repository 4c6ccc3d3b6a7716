namespace AmberCrate.Core.Searching;

/// <summary>
/// By what the texts that are near another one can be looked up in sorted lists, instead of comparing all that there are.
/// Two or three wrong letters cannot all be at both ends: whatever is near begins, or ends, with letters of which one at most is wrong, and
/// those can be written down. Source of the idea: U. Manber and S. Wu, "An algorithm for approximate membership checking", 1994.
/// </summary>
/// <param name="Beginnings">What a near text begins with.</param>
/// <param name="Endings">What one ends with that begins otherwise, each from its last letter to its first.</param>
public sealed record SpellingSeeds(IReadOnlyList<string> Beginnings, IReadOnlyList<string> Endings)
{
    private const int MostTolerated = 3, Longest = 6;
    private const string Letters = "abcdefghijklmnopqrstuvwxyz0123456789";

    /// <summary>
    /// The seeds of a text; null where it has none: where more is tolerated than can be told by its ends, or it has letters for which others than the
    /// Latin ones would have to be tried.
    /// </summary>
    /// <param name="text">The text, of small letters and digits.</param>
    /// <param name="most">How far others may be apart from it, by <see cref="NameDistance.Between"/>, to be near.</param>
    public static SpellingSeeds? Of(string text, int most)
    {
        // Three operations, one of which may swap the letters at a joint, need a letter between both ends that belongs to neither.
        var length = Math.Min(Longest, most switch { 1 => text.Length, 2 => text.Length / 2, _ => (text.Length - 1) / 2 });
        if (most is < 1 or > MostTolerated || length < 1 || text.Any(letter => !Letters.Contains(letter, StringComparison.Ordinal))) return null;
        return new SpellingSeeds(OneWrongAtMost(text[..length]), most == 1 ? [] : OneWrongAtMost(Reversed(text)[..length]));
    }

    /// <summary>A text from its last letter to its first.</summary>
    public static string Reversed(string text) => string.Create(text.Length, text, (letters, from) =>
    {
        from.CopyTo(letters);
        letters.Reverse();
        for (var at = 1; at < letters.Length; at++)
        {
            if (char.IsSurrogatePair(letters[at], letters[at - 1])) (letters[at - 1], letters[at]) = (letters[at], letters[at - 1]);
        }
    });

    /// <summary>The shortest beginnings with which every text begins that begins with this one, a letter put in, left out, changed or swapped at most.</summary>
    private static List<string> OneWrongAtMost(string beginning)
    {
        var seeds = new List<string>();
        foreach (var seed in OneOperationOff(beginning).Append(beginning).Order(StringComparer.Ordinal))
        {
            if (seeds.Count == 0 || !seed.StartsWith(seeds[^1], StringComparison.Ordinal)) seeds.Add(seed);
        }

        return seeds;
    }

    /// <summary>What becomes of a text by putting in, leaving out, changing or swapping one letter; the text itself may be among it.</summary>
    private static HashSet<string> OneOperationOff(string text)
    {
        var near = new HashSet<string>(StringComparer.Ordinal);
        for (var at = 0; at <= text.Length; at++)
        {
            foreach (var letter in Letters) near.Add($"{text[..at]}{letter}{text[at..]}");
            if (at == text.Length) break;
            near.Add(text.Remove(at, 1));
            foreach (var letter in Letters) near.Add($"{text[..at]}{letter}{text[(at + 1)..]}");
            if (at + 1 < text.Length) near.Add($"{text[..at]}{text[at + 1]}{text[at]}{text[(at + 2)..]}");
        }

        return near;
    }
}
