namespace AmberCrate.Core.Searching;

/// <summary>Finds the known words that a mistyped one may have been meant for.</summary>
public static class SpellingGuess
{
    private const int MostChoices = 4;
    private const int MostCompared = 24;

    /// <summary>
    /// How many letters of a mistyped word may be wrong: none in short ones, where almost any other word would fit, and in
    /// numbers, which are meant as they are; two in long ones.
    /// </summary>
    public static int MostWrong(string word) => word.Length switch
    {
        _ when word.Any(char.IsDigit) => 0,
        < 4 => 0,
        < 8 => 1,
        _ => 2,
    };

    /// <summary>
    /// Whether two words differ only in what fingers do by themselves: letters in another order, or one twice or once.
    /// </summary>
    public static bool IsSlip(string typed, string meant) =>
        Squeezed(typed) == Squeezed(meant) || typed.Order().SequenceEqual(meant.Order());

    /// <summary>The nearest of words that are near; of equally near ones slips first, then the most frequent.</summary>
    /// <param name="typed">The mistyped word.</param>
    /// <param name="near">The words that are near it.</param>
    /// <param name="frequency">Says how often a word occurs; asked for the nearest ones only. What never occurs is left
    /// out.</param>
    public static IReadOnlyList<(string Word, int Distance)> FindNearest(
        string typed, IEnumerable<(string Text, int Distance)> near, Func<string, long> frequency) =>
    [
        .. near
            .OrderBy(candidate => candidate.Distance).ThenBy(candidate => IsSlip(typed, candidate.Text) ? 0 : 1)
            .ThenBy(candidate => candidate.Text, StringComparer.Ordinal)
            .Take(MostCompared)
            .Select(candidate => (candidate.Text, candidate.Distance, Count: frequency(candidate.Text)))
            .Where(candidate => candidate.Count > 0)
            .OrderBy(candidate => candidate.Distance).ThenBy(candidate => IsSlip(typed, candidate.Text) ? 0 : 1)
            .ThenByDescending(candidate => candidate.Count).ThenBy(candidate => candidate.Text, StringComparer.Ordinal)
            .Take(MostChoices)
            .Select(candidate => (candidate.Text, candidate.Distance)),
    ];

    private static string Squeezed(string word) =>
        string.Concat(word.Where((letter, at) => at == 0 || letter != word[at - 1]));
}
