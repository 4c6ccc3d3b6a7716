using System.Globalization;
using System.Text;

namespace AmberCrate.Core.Searching;

/// <summary>Brings texts and queries to a common form, so that case, accents, hyphens and dots do not matter.</summary>
public static class SearchText
{
    /// <summary>The longest query that is looked at, in characters; what is beyond cannot be meant.</summary>
    public const int MaxQuery = 200;

    /// <summary>Words in lower case without accents, joined by single spaces: <c>Scrim-Paint</c> becomes <c>scrim paint</c>.</summary>
    public static string Fold(string text)
    {
        var folded = new StringBuilder(text.Length);
        foreach (var rune in text.EnumerateRunes())
        {
            if (rune.IsAscii) FoldAscii((char)rune.Value, folded);
            else FoldOther(Rune.ToLowerInvariant(rune), folded);
        }

        if (folded.Length > 0 && folded[^1] == ' ') folded.Length--;
        return folded.ToString();
    }

    /// <summary>As <see cref="Fold"/>, with the words run together: <c>scrimpaint</c>.</summary>
    public static string Squash(string text) => Fold(text).Replace(" ", "", StringComparison.Ordinal);

    private static void FoldAscii(char letter, StringBuilder folded)
    {
        if (char.IsAsciiLetterOrDigit(letter)) folded.Append(char.ToLowerInvariant(letter));
        else EndWord(folded);
    }

    private static void FoldOther(Rune lower, StringBuilder folded)
    {
        if (lower.IsBmp && AccentTable.Plain.TryGetValue((char)lower.Value, out var plain)) folded.Append(plain);
        else if (Rune.IsLetterOrDigit(lower)) folded.Append(lower.ToString());
        else if (Rune.GetUnicodeCategory(lower) != UnicodeCategory.NonSpacingMark) EndWord(folded);
    }

    private static void EndWord(StringBuilder folded)
    {
        if (folded.Length > 0 && folded[^1] != ' ') folded.Append(' ');
    }
}
