namespace AmberCrate.Core.Searching;

/// <summary>How far two names are apart, for proposing what may have been meant.</summary>
public static class NameDistance
{
    /// <summary>
    /// The restricted Damerau-Levenshtein distance: how many letters must be put in, left out, changed or swapped
    /// with their neighbour. Source: L. Boytsov, "Indexing methods for approximate dictionary searching", 2011, section 2.
    /// </summary>
    public static int Between(string left, string right)
    {
        var before = new int[right.Length + 1];
        var last = Enumerable.Range(0, right.Length + 1).ToArray();
        var now = new int[right.Length + 1];
        for (var i = 1; i <= left.Length; i++)
        {
            now[0] = i;
            for (var j = 1; j <= right.Length; j++)
            {
                var cost = left[i - 1] == right[j - 1] ? 0 : 1;
                now[j] = Math.Min(Math.Min(last[j] + 1, now[j - 1] + 1), last[j - 1] + cost);
                var swapped = i > 1 && j > 1 && left[i - 1] == right[j - 2] && left[i - 2] == right[j - 1];
                if (swapped) now[j] = Math.Min(now[j], before[j - 2] + 1);
            }

            (before, last, now) = (last, now, before);
        }

        return last[right.Length];
    }

    /// <summary>The names nearest to one that was not found: at most a third of its letters differ, nearest first.</summary>
    public static IEnumerable<string> Nearest(string name, IEnumerable<string> names, int most)
    {
        var squashed = SearchText.Squash(name.Length > 80 ? name[..80] : name);
        return names
            .Select(candidate => (candidate, squashed: SearchText.Squash(candidate)))
            .Where(pair => Math.Abs(pair.squashed.Length - squashed.Length) <= squashed.Length / 3)
            .Select(pair => (pair.candidate, distance: Between(squashed, pair.squashed)))
            .Where(pair => pair.distance <= squashed.Length / 3)
            .OrderBy(pair => pair.distance).ThenBy(pair => pair.candidate, StringComparer.Ordinal)
            .Select(pair => pair.candidate)
            .Take(most);
    }
}
