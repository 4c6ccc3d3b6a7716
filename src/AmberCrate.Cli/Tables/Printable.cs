using System.Globalization;
using System.Text;
using AmberCrate.Cli.Texts;

namespace AmberCrate.Cli.Tables;

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
        if (!text.AsSpan().ContainsAnyExceptInRange(' ', '~') || !text.Any(SteeringCharacters.Has)) return text;
        var shown = new StringBuilder(text.Length + 16);
        foreach (var c in text.ReplaceLineEndings("\n"))
        {
            if (c == '\n') shown.Append(breaks);
            else if (c == '\t') shown.Append(' ');
            else if (SteeringCharacters.Has(c)) shown.Append(CultureInfo.InvariantCulture, $"<{(int)c:X4}>");
            else shown.Append(c);
        }

        return shown.ToString();
    }
}
