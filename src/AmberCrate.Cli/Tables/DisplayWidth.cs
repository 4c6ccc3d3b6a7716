using System.Globalization;
using System.Text;

namespace AmberCrate.Cli.Tables;

/// <summary>How many columns of a terminal a text takes.</summary>
internal static class DisplayWidth
{
    // The blocks whose characters are wide or full-width (Unicode Standard Annex #11, EastAsianWidth W and F).
    private static readonly (int First, int Last)[] Wide =
    [
        (0x1100, 0x115F), (0x2E80, 0x303E), (0x3041, 0xA4CF), (0xA960, 0xA97F), (0xAC00, 0xD7A3), (0xF900, 0xFAFF),
        (0xFE30, 0xFE6F), (0xFF00, 0xFF60), (0xFFE0, 0xFFE6), (0x1F300, 0x1FAFF), (0x20000, 0x3FFFD),
    ];

    public static int Measure(ReadOnlySpan<char> text)
    {
        if (Ascii.IsValid(text)) return text.Length;
        var width = 0;
        foreach (var rune in text.EnumerateRunes()) width += Measure(rune);
        return width;
    }

    /// <summary>A text followed by as many spaces as it lacks.</summary>
    public static string Pad(string text, int width) => text + new string(' ', Math.Max(0, width - Measure(text)));

    /// <summary>A text behind as many spaces as it lacks.</summary>
    public static string PadLeft(string text, int width) => new string(' ', Math.Max(0, width - Measure(text))) + text;

    /// <summary>As much of the beginning of a text as goes into so many columns.</summary>
    public static string Start(string text, int width)
    {
        var (taken, at) = (0, 0);
        foreach (var rune in text.EnumerateRunes())
        {
            if (taken + Measure(rune) > width) break;
            taken += Measure(rune);
            at += rune.Utf16SequenceLength;
        }

        return text[..at];
    }

    /// <summary>How many columns a character takes.</summary>
    public static int Measure(Rune rune)
    {
        if (rune.Value < 0x300) return 1;
        if (Rune.GetUnicodeCategory(rune) is UnicodeCategory.NonSpacingMark or UnicodeCategory.EnclosingMark
            or UnicodeCategory.Format) return 0;
        return Array.Exists(Wide, block => rune.Value >= block.First && rune.Value <= block.Last) ? 2 : 1;
    }
}
