namespace AmberCrate.Core.Searching;

/// <summary>Looks for words in folded texts, whose words are joined by single spaces.</summary>
internal static class WordPlace
{
    /// <summary>Whether a text has a word, and whether it has one that begins with it.</summary>
    public static (bool Has, bool Begins) Find(string text, string word)
    {
        var begins = false;
        for (var at = text.IndexOf(word, StringComparison.Ordinal); at >= 0;
            at = text.IndexOf(word, at + 1, StringComparison.Ordinal))
        {
            if (at > 0 && text[at - 1] != ' ') continue;
            if (at + word.Length == text.Length || text[at + word.Length] == ' ') return (true, true);
            begins = true;
        }

        return (false, begins);
    }
}
