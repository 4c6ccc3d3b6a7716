using System.Globalization;
using System.Text;

namespace AmberCrate.Cli.Views;

/// <summary>Makes text from catalogues and files safe to print: what would steer a terminal is shown instead of obeyed.</summary>
internal static class Printable
{
    /// <summary>The longest piece of foreign text that is printed, in characters.</summary>
    public const int MaxLength = 20_000;

    /// <summary>One line: line breaks become spaces, other control and direction characters become their codes.</summary>
    public static string Line(string text) => Make(text, breaks: " ");

    /// <summary>Several lines: line breaks stay.</summary>
    public static string Lines(string text) => Make(text, breaks: "\n");

    private static string Make(string text, string breaks)
    {
        if (text.Length > MaxLength) text = text[..MaxLength] + "…";
        if (!text.AsSpan().ContainsAnyExceptInRange(' ', '~') || !text.Any(IsSteering)) return text;
        var shown = new StringBuilder(text.Length + 16);
        foreach (var c in text.ReplaceLineEndings("\n"))
        {
            if (c == '\n') shown.Append(breaks);
            else if (c == '\t') shown.Append(' ');
            else if (IsSteering(c)) shown.Append(CultureInfo.InvariantCulture, $"<{(int)c:X4}>");
            else shown.Append(c);
        }

        return shown.ToString();
    }

    /// <summary>
    /// C0 and C1 controls, and the marks of the Unicode bidirectional algorithm (UAX #9) that reorder what follows.
    /// </summary>
    private static bool IsSteering(char c) =>
        char.IsControl(c) || c is '\u200E' or '\u200F' or '\u061C' or '\u2028' or '\u2029' or (>= '\u202A' and <= '\u202E')
            or (>= '\u2066' and <= '\u2069');
}
