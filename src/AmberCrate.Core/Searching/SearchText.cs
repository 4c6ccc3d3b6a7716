using System.Buffers;
using System.Globalization;
using System.Text;

namespace AmberCrate.Core.Searching;

/// <summary>Brings texts and queries to a common form, so that case, accents, hyphens and dots do not matter.</summary>
public static class SearchText
{
    /// <summary>The longest query that is looked at, in characters; what is beyond cannot be meant.</summary>
    public const int MaxQuery = 200;

    private static readonly SearchValues<char> Joints = SearchValues.Create("-.'/\u2010\u2011\u2013\u2019");

    /// <summary>
    /// Words in lower case without accents, joined by single spaces: <c>Scrim-Paint</c> becomes <c>scrim paint</c>.
    /// </summary>
    /// <remarks>
    /// The names of languages that end in signs are words: <c>c++</c> becomes <c>cplusplus</c>, <c>c#</c> <c>csharp</c>, and
    /// <c>.net</c> <c>dotnet</c>.
    /// </remarks>
    public static string Fold(string text)
    {
        var folded = new StringBuilder(text.Length);
        for (var at = 0; at < text.Length; at++)
        {
            if (char.IsAscii(text[at]))
            {
                if (!FoldSign(text, at, folded)) FoldAscii(text[at], folded);
                continue;
            }

            Rune.DecodeFromUtf16(text.AsSpan(at), out var rune, out var length);
            FoldOther(Rune.ToLowerInvariant(rune), folded);
            at += length - 1;
        }

        if (folded.Length > 0 && folded[^1] == ' ') folded.Length--;
        return folded.ToString();
    }

    /// <summary>
    /// As <see cref="Fold"/>, with each compound also in one word behind its parts, so that it is found written together too:
    /// <c>Sign-in sheets</c> becomes <c>sign in signin sheets</c>.
    /// </summary>
    public static string FoldCompounds(string text)
    {
        if (!text.AsSpan().ContainsAny(Joints)) return Fold(text);
        var folded = new StringBuilder(text.Length);
        foreach (var part in text.Split(Array.Empty<char>(), StringSplitOptions.RemoveEmptyEntries)) WithJoined(part, folded);
        return folded.ToString();
    }

    /// <summary>
    /// As <see cref="Fold"/>, followed by each two neighbouring words in one: <c>cue sheet</c> becomes <c>cue sheet cuesheet</c>.
    /// </summary>
    public static string FoldPhrase(string text)
    {
        var folded = Fold(text);
        if (!folded.Contains(' ', StringComparison.Ordinal)) return folded;
        var words = folded.Split(' ');
        return $"{folded} {string.Join(' ', words.Zip(words.Skip(1), string.Concat))}";
    }

    /// <summary>As <see cref="Fold"/>, with the words run together: <c>scrimpaint</c>.</summary>
    public static string Squash(string text) => Fold(text).Replace(" ", "", StringComparison.Ordinal);

    private static void WithJoined(string part, StringBuilder folded)
    {
        if (Fold(part) is not { Length: > 0 } words) return;
        if (folded.Length > 0) folded.Append(' ');
        folded.Append(words);
        if (words.Contains(' ', StringComparison.Ordinal))
            folded.Append(' ').Append(words.Replace(" ", "", StringComparison.Ordinal));
    }

    /// <summary>Takes a sign that makes a word of its own with the letters beside it; false where it does not.</summary>
    private static bool FoldSign(string text, int at, StringBuilder folded)
    {
        if (text[at] == '.')
        {
            if (at > 0 && char.IsLetterOrDigit(text[at - 1])) return false;
            if (string.Compare(text, at + 1, "net", 0, 3, StringComparison.OrdinalIgnoreCase) != 0 || !EndsWordAt(text, at + 4))
                return false;
            EndWord(folded);
            folded.Append("dot");
            return true;
        }

        // Only behind a single letter: "scrim++" is found as "scrim".
        var isAlone = at > 0 && char.IsAsciiLetter(text[at - 1]) && (at == 1 || !char.IsLetterOrDigit(text[at - 2]));
        if (text[at] == '#' && isAlone && EndsWordAt(text, at + 1))
        {
            folded.Append("sharp");
            return true;
        }

        if (text[at] != '+' || !isAlone || at + 1 >= text.Length || text[at + 1] != '+' || !EndsWordAt(text, at + 2))
            return false;
        folded.Append("plusplus");
        return true;
    }

    private static bool EndsWordAt(string text, int at) => at >= text.Length || !char.IsLetterOrDigit(text[at]);

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
