namespace AmberCrate.Core.Searching;

/// <summary>How far two names are apart, for proposing what may have been meant.</summary>
public static class NameDistance
{
    private const int MostProposed = 3;
    private const int MostLetters = 80;

    /// <summary>
    /// The restricted Damerau-Levenshtein distance: how many letters must be put in, left out, changed or swapped
    /// with their neighbour. Source: L. Boytsov, "Indexing methods for approximate dictionary searching", 2011, section 2.
    /// </summary>
    /// <param name="left">One name.</param>
    /// <param name="right">The other.</param>
    /// <param name="limit">Beyond this the exact distance does not matter: comparing stops, and something larger is
    /// returned.</param>
    public static int Between(string left, string right, int limit = int.MaxValue)
    {
        var before = new int[right.Length + 1];
        var last = Enumerable.Range(0, right.Length + 1).ToArray();
        var now = new int[right.Length + 1];
        for (var i = 1; i <= left.Length; i++)
        {
            var least = now[0] = i;
            for (var j = 1; j <= right.Length; j++)
            {
                var cost = left[i - 1] == right[j - 1] ? 0 : 1;
                now[j] = Math.Min(Math.Min(last[j] + 1, now[j - 1] + 1), last[j - 1] + cost);
                var swapped = i > 1 && j > 1 && left[i - 1] == right[j - 2] && left[i - 2] == right[j - 1];
                if (swapped) now[j] = Math.Min(now[j], before[j - 2] + 1);
                least = Math.Min(least, now[j]);
            }

            // A swap takes the row before the last, which is one better than this one at most.
            if (least - 1 > limit) return least;

            (before, last, now) = (last, now, before);
        }

        return last[right.Length];
    }

    /// <summary>How many letters of a name may differ for it to be proposed: a third of them, and three at most.</summary>
    public static int Tolerance(string name) => Math.Min(SearchText.Squash(name).Length / 3, MostProposed);

    /// <summary>What ids are compared with that may be meant by a name which was not found.</summary>
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
