namespace AmberCrate.Core.Values;

/// <summary>How far two words are apart, for proposing what may have been meant.</summary>
public static class WordDistance
{
    private const int MostLetters = 40;

    /// <summary>
    /// The restricted Damerau-Levenshtein distance: how many letters must be put in, left out, changed or swapped
    /// with their neighbour. Source: L. Boytsov, "Indexing methods for approximate dictionary searching", 2011, section 2.
    /// </summary>
    /// <param name="left">One word.</param>
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

    /// <summary>The word that may have been meant: the nearest, or one with the same beginning; null if none is near.</summary>
    /// <param name="word">What was written.</param>
    /// <param name="known">All known words.</param>
    public static string? Nearest(string word, IEnumerable<string> known)
    {
        if (word.Length is 0 or > MostLetters) return null;
        var most = Math.Max(1, word.Length / 3);
        return known
            .Select(candidate => (Word: candidate, Distance: Between(word, candidate, most)))
            .Where(pair => pair.Distance <= most
                || (word.Length > 2 && pair.Word.StartsWith(word, StringComparison.Ordinal)))
            .OrderBy(pair => pair.Distance).ThenBy(pair => pair.Word, StringComparer.Ordinal)
            .Select(pair => pair.Word)
            .FirstOrDefault();
    }
}
