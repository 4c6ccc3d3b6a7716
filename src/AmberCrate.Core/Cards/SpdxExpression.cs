namespace AmberCrate.Core.Cards;

/// <summary>
/// Checks the grammar of a licence expression after SPDX 2.3, Annex D. The licence list itself is not
/// consulted: it grows faster than any program that carries a copy.
/// </summary>
public static class SpdxExpression
{
    /// <summary>What an expression must look like, for messages.</summary>
    public const string Expected = "an SPDX licence expression such as MIT, GPL-3.0-or-later or LicenseRef-proprietary";

    /// <summary>Whether the text follows the grammar.</summary>
    public static bool IsValid(string text)
    {
        if (Words(text) is not { } words) return false;
        var at = 0;
        return Expression(words, ref at, depth: 0) && at == words.Count;
    }

    /// <summary>The parentheses, operators and names of a text; null where something else is in it.</summary>
    private static List<string>? Words(string text)
    {
        var words = new List<string>();
        for (var at = 0; at < text.Length;)
        {
            if (char.IsWhiteSpace(text[at]))
            {
                at++;
                continue;
            }

            var length = text[at] is '(' or ')' ? 1 : NameLength(text.AsSpan(at));
            if (length == 0) return null;
            words.Add(text.Substring(at, length));
            at += length;
        }

        return words;
    }

    /// <summary>
    /// The length of the name at the beginning of a text: an identifier, perhaps behind that of a document and a colon,
    /// perhaps with
    /// a plus; 0 where it begins with none.
    /// </summary>
    private static int NameLength(ReadOnlySpan<char> text)
    {
        if (!char.IsAsciiLetterOrDigit(text[0])) return 0;
        var length = IdentifierLength(text);
        if (length < text.Length && text[length] == ':' && IdentifierLength(text[(length + 1)..]) is > 0 and var second)
            length += 1 + second;
        return length < text.Length && text[length] == '+' ? length + 1 : length;
    }

    private static int IdentifierLength(ReadOnlySpan<char> text)
    {
        var length = 0;
        while (length < text.Length && (char.IsAsciiLetterOrDigit(text[length]) || text[length] is '.' or '-')) length++;
        return length;
    }

    private static bool Expression(List<string> words, ref int at, int depth)
    {
        if (!Term(words, ref at, depth)) return false;
        while (at < words.Count && words[at] is "AND" or "OR")
        {
            at++;
            if (!Term(words, ref at, depth)) return false;
        }

        return true;
    }

    private static bool Term(List<string> words, ref int at, int depth)
    {
        if (at >= words.Count || depth > 20) return false;
        if (words[at] == "(")
        {
            at++;
            return Expression(words, ref at, depth + 1) && at < words.Count && words[at++] == ")";
        }

        if (!IsName(words[at++])) return false;
        if (at >= words.Count || words[at] != "WITH") return true;
        at++;
        return at < words.Count && IsName(words[at++]);
    }

    private static bool IsName(string word) => word is not ("AND" or "OR" or "WITH" or "(" or ")");
}
