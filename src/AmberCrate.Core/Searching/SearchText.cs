using System.Text;

namespace AmberCrate.Core.Searching;

/// <summary>Brings texts and queries to a common form, so that case, accents, hyphens and dots do not matter.</summary>
public static class SearchText
{
    /// <summary>The longest query that is looked at, in characters; what is beyond cannot be meant.</summary>
    public const int MaxQuery = 200;

    // Letters whose Unicode decomposition (UnicodeData, canonical mappings) begins with a basic Latin letter, and the
    // few that people type as two. The program runs without the system's Unicode library, so the table is here.
    private static readonly Dictionary<char, string> Plain = Table(
        ("a", "àáâãäåāăąǎ"), ("c", "çćĉċč"), ("d", "ďđð"), ("e", "èéêëēĕėęě"), ("g", "ĝğġģ"), ("h", "ĥħ"), ("i", "ìíîïĩīĭįı"),
        ("j", "ĵ"), ("k", "ķ"), ("l", "ĺļľŀł"), ("n", "ñńņňŉŋ"), ("o", "òóôõöøōŏőǒ"), ("r", "ŕŗř"), ("s", "śŝşšșſ"),
        ("t", "ţťŧț"), ("u", "ùúûüũūŭůűųǔ"), ("w", "ŵ"), ("y", "ýÿŷ"), ("z", "źżž"), ("ss", "ß"), ("ae", "æ"), ("oe", "œ"), ("th", "þ"));

    /// <summary>Words in lower case without accents, joined by single spaces: <c>Scrim-Paint</c> becomes <c>scrim paint</c>.</summary>
    public static string Fold(string text)
    {
        var folded = new StringBuilder(text.Length);
        foreach (var rune in text.EnumerateRunes())
        {
            var lower = Rune.ToLowerInvariant(rune);
            if (lower.IsBmp && Plain.TryGetValue((char)lower.Value, out var plain)) folded.Append(plain);
            else if (Rune.IsLetterOrDigit(lower)) folded.Append(lower.ToString());
            else if (Rune.GetUnicodeCategory(lower) != System.Globalization.UnicodeCategory.NonSpacingMark && folded.Length > 0 && folded[^1] != ' ') folded.Append(' ');
        }

        return folded.ToString().TrimEnd();
    }

    /// <summary>As <see cref="Fold"/>, with the words run together: <c>scrimpaint</c>.</summary>
    public static string Squash(string text) => Fold(text).Replace(" ", "", StringComparison.Ordinal);

    private static Dictionary<char, string> Table(params (string Plain, string Letters)[] rows) =>
        rows.SelectMany(row => row.Letters.Select(letter => (letter, row.Plain))).ToDictionary(pair => pair.letter, pair => pair.Plain);
}
