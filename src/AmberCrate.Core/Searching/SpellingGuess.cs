namespace AmberCrate.Core.Searching;

/// <summary>Finds the known words that a mistyped one may have been meant for.</summary>
public static class SpellingGuess
{
    private const int MostChoices = 4;
    private const int MostCompared = 24;

    /// <summary>How many letters of a word may be wrong: none in short ones, where almost any other word would fit; two in long ones.</summary>
    public static int Tolerance(int length) => length switch
    {
        < 4 => 0,
        < 8 => 1,
        _ => 2,
    };

    /// <summary>The words nearest to a mistyped one, within its tolerance; of equally near ones the most frequent first. Numbers are meant as they are.</summary>
    /// <param name="word">The mistyped word.</param>
    /// <param name="known">The words that there are.</param>
    /// <param name="frequency">Tells how often a word occurs; asked for the nearest ones only. What never occurs is left out.</param>
    public static IReadOnlyList<(string Word, int Distance)> Of(string word, IEnumerable<string> known, Func<string, long> frequency)
    {
        var tolerance = Tolerance(word.Length);
        if (tolerance == 0 || word.Any(char.IsDigit)) return [];
        return [.. NameDistance.Within(tolerance, word, known)
            .OrderBy(candidate => candidate.Distance).ThenBy(candidate => candidate.Text, StringComparer.Ordinal)
            .Take(MostCompared)
            .Select(candidate => (candidate.Text, candidate.Distance, Count: frequency(candidate.Text)))
            .Where(candidate => candidate.Count > 0)
            .OrderBy(candidate => candidate.Distance).ThenByDescending(candidate => candidate.Count).ThenBy(candidate => candidate.Text, StringComparer.Ordinal)
            .Take(MostChoices)
            .Select(candidate => (candidate.Text, candidate.Distance))];
    }
}
