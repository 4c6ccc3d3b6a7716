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

    /// <summary>What known words are compared with that may be meant by a mistyped one; null where it is too short, or has digits: numbers are meant as they are.</summary>
    public static SpellingPattern? PatternOf(string word) =>
        Tolerance(word.Length) is > 0 and var most && !word.Any(char.IsDigit) ? new SpellingPattern(word, most, skipsJoints: false) : null;

    /// <summary>Every word that differs from one in a single letter: put in, left out, changed, or swapped with its neighbour. Empty for words that are meant as they are.</summary>
    public static IEnumerable<string> OneLetterOff(string word)
    {
        if (Tolerance(word.Length) == 0 || word.Any(char.IsDigit)) return [];
        var near = new HashSet<string>(StringComparer.Ordinal);
        for (var at = 0; at <= word.Length; at++)
        {
            for (var letter = 'a'; letter <= 'z'; letter++) near.Add($"{word[..at]}{letter}{word[at..]}");
            if (at == word.Length) break;
            near.Add(word.Remove(at, 1));
            for (var letter = 'a'; letter <= 'z'; letter++) near.Add($"{word[..at]}{letter}{word[(at + 1)..]}");
            if (at + 1 < word.Length) near.Add($"{word[..at]}{word[at + 1]}{word[at]}{word[(at + 2)..]}");
        }

        near.Remove(word);
        return near;
    }

    /// <summary>The nearest of words that are near; of equally near ones the most frequent first.</summary>
    /// <param name="near">The words that are near a mistyped one.</param>
    /// <param name="frequency">Tells how often a word occurs; asked for the nearest ones only. What never occurs is left out.</param>
    public static IReadOnlyList<(string Word, int Distance)> Of(IEnumerable<(string Text, int Distance)> near, Func<string, long> frequency) =>
    [
        .. near
            .OrderBy(candidate => candidate.Distance).ThenBy(candidate => candidate.Text, StringComparer.Ordinal)
            .Take(MostCompared)
            .Select(candidate => (candidate.Text, candidate.Distance, Count: frequency(candidate.Text)))
            .Where(candidate => candidate.Count > 0)
            .OrderBy(candidate => candidate.Distance).ThenByDescending(candidate => candidate.Count).ThenBy(candidate => candidate.Text, StringComparer.Ordinal)
            .Take(MostChoices)
            .Select(candidate => (candidate.Text, candidate.Distance)),
    ];
}
