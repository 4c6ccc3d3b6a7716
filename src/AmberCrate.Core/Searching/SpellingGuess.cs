namespace AmberCrate.Core.Searching;

/// <summary>Finds the known words that a mistyped one may have been meant for.</summary>
public static class SpellingGuess
{
    private const int MostChoices = 4;

    /// <summary>How many letters of a word may be wrong: none in short ones, where almost any other word would fit; two in long ones.</summary>
    public static int Tolerance(int length) => length switch
    {
        < 4 => 0,
        < 8 => 1,
        _ => 2,
    };

    /// <summary>The words nearest to a mistyped one, within its tolerance; of equally near ones the most frequent first. Numbers are meant as they are.</summary>
    /// <param name="word">The mistyped word.</param>
    /// <param name="known">The words that there are, with how often they occur.</param>
    public static IReadOnlyList<(string Word, int Distance)> Of(string word, IEnumerable<(string Word, long Count)> known)
    {
        var tolerance = Tolerance(word.Length);
        if (tolerance == 0 || word.Any(char.IsDigit)) return [];
        return [.. known
            .Where(candidate => Math.Abs(candidate.Word.Length - word.Length) <= tolerance)
            .Select(candidate => (candidate.Word, candidate.Count, Distance: NameDistance.Between(word, candidate.Word)))
            .Where(candidate => candidate.Distance <= tolerance)
            .OrderBy(candidate => candidate.Distance).ThenByDescending(candidate => candidate.Count).ThenBy(candidate => candidate.Word, StringComparer.Ordinal)
            .Take(MostChoices)
            .Select(candidate => (candidate.Word, candidate.Distance))];
    }
}
