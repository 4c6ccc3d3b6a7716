using System.Text.RegularExpressions;

namespace AmberCrate.Core.Cards;

/// <summary>
/// Checks the grammar of a licence expression after SPDX 2.3, Annex D. The licence list itself is not
/// consulted: it grows faster than any program that carries a copy.
/// </summary>
public static partial class SpdxExpression
{
    /// <summary>What an expression must look like, for messages.</summary>
    public const string Expected = "an SPDX licence expression such as MIT, GPL-3.0-or-later or LicenseRef-proprietary";

    /// <summary>Whether the text follows the grammar.</summary>
    public static bool IsValid(string text)
    {
        var tokens = Token().Matches(text);
        if (tokens.Sum(token => token.Length) != text.Count(c => !char.IsWhiteSpace(c))) return false;
        var words = tokens.Select(token => token.Value).ToArray();
        var at = 0;
        return Expression(words, ref at, depth: 0) && at == words.Length;
    }

    private static bool Expression(string[] words, ref int at, int depth)
    {
        if (!Term(words, ref at, depth)) return false;
        while (at < words.Length && words[at] is "AND" or "OR")
        {
            at++;
            if (!Term(words, ref at, depth)) return false;
        }

        return true;
    }

    private static bool Term(string[] words, ref int at, int depth)
    {
        if (at >= words.Length || depth > 20) return false;
        if (words[at] == "(")
        {
            at++;
            return Expression(words, ref at, depth + 1) && at < words.Length && words[at++] == ")";
        }

        if (!IsName(words[at++])) return false;
        if (at >= words.Length || words[at] != "WITH") return true;
        at++;
        return at < words.Length && IsName(words[at++]);
    }

    private static bool IsName(string word) => word is not ("AND" or "OR" or "WITH" or "(" or ")");

    [GeneratedRegex(@"[()]|[A-Za-z0-9][A-Za-z0-9.\-]*(:[A-Za-z0-9.\-]+)?\+?", RegexOptions.ExplicitCapture, matchTimeoutMilliseconds: 1000)]
    private static partial Regex Token();
}
