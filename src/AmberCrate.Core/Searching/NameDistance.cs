namespace AmberCrate.Core.Searching;

/// <summary>How far two names are apart, for proposing what may have been meant.</summary>
public static class NameDistance
{
    private const int MostProposed = 3;
    private const int MostLetters = 80;

    /// <summary>How many letters of a name may differ for it to be proposed: a third of them, and three at most.</summary>
    public static int Tolerance(string name) => Math.Min(SearchText.Squash(name).Length / 3, MostProposed);

    /// <summary>The ids to compare with a name that was not found.</summary>
    public static SpellingPattern PatternOf(string name)
    {
        var squashed = SearchText.Squash(name.Length > MostLetters ? name[..MostLetters] : name);
        return new SpellingPattern(squashed, Tolerance(squashed), skipsJoints: true);
    }

    /// <summary>The ids nearest to a name that was not found, within its tolerance, nearest first.</summary>
    public static IEnumerable<string> Nearest(string name, IEnumerable<string> ids, int most) =>
        Nearest(PatternOf(name).Among(ids), most);

    /// <summary>The nearest of ids that are near, nearest first.</summary>
    public static IEnumerable<string> Nearest(IEnumerable<(string Id, int Distance)> near, int most) =>
        near.OrderBy(pair => pair.Distance).ThenBy(pair => pair.Id, StringComparer.Ordinal).Select(pair => pair.Id).Take(most);
}
