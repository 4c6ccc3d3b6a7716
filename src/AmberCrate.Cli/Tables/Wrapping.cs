using System.Globalization;
using System.Text;

namespace AmberCrate.Cli.Tables;

/// <summary>
/// Breaks text into lines: between words, never inside a number or between a number and its unit. A word that is longer than a
/// line is broken only if the caller wants that.
/// </summary>
internal static class Wrapping
{
    /// <summary>A space at which no line ends. It is printed as a usual space.</summary>
    public const char Kept = '\u00A0';

    private const string GoodEnds = "/-_.,:;=+&?)";
    private static readonly HashSet<string> Units = new(["B", "KiB", "MiB", "GiB", "TiB", "%", "·"], StringComparer.Ordinal);

    /// <summary>A text that stays on one line, such as a command to paste.</summary>
    public static string KeepTogether(string text) => text.Replace(' ', Kept);

    /// <summary>A text as it is printed.</summary>
    public static string Printed(string text) => text.Replace(Kept, ' ');

    /// <summary>Breaks a text into lines.</summary>
    /// <param name="text">The text.</param>
    /// <param name="first">How many columns the first line has.</param>
    /// <param name="rest">How many columns each further line has.</param>
    /// <param name="breaksWords">Whether a word longer than a line is broken; otherwise its line is as long as the word.</param>
    public static IReadOnlyList<string> Lines(string text, int first, int rest, bool breaksWords) =>
        [.. Ranges(text, first, rest, breaksWords).Select(range => text[range])];

    /// <summary>The same, as the parts of the text that are a line each.</summary>
    public static List<Range> Ranges(string text, int first, int rest, bool breaksWords)
    {
        if (DisplayWidth.Measure(text) <= first) return [new Range(0, text.Length)];
        List<Range> lines = [];
        var (start, end, room) = (0, 0, first);
        foreach (var (from, to) in Words(text))
        {
            if (DisplayWidth.Measure(text.AsSpan(start, to - start)) <= room)
            {
                end = to;
                continue;
            }

            var at = from;
            var fitsAlone = DisplayWidth.Measure(text.AsSpan(from, to - from)) <= rest;
            if (end > start && fitsAlone) Close(from);
            while (breaksWords && DisplayWidth.Measure(text.AsSpan(start, to - start)) > room)
            {
                var cut = Cut(text.AsSpan(at, to - at), room - DisplayWidth.Measure(text.AsSpan(start, at - start)));
                if (cut == 0 && at > start)
                {
                    Close(at);
                    continue;
                }

                // A line that is narrower than one sign still takes one.
                if (cut == 0) cut = StringInfo.GetNextTextElementLength(text.AsSpan(at, to - at));

                (at, end) = (at + cut, at + cut);
                Close(at);
            }

            end = to;
        }

        lines.Add(start..end);
        return lines;

        void Close(int next)
        {
            lines.Add(start..end);
            (start, end, room) = (next, next, rest);
        }
    }

    /// <summary>The words of a text, each with what must stay beside it.</summary>
    private static IEnumerable<(int From, int To)> Words(string text)
    {
        var from = 0;
        while (from < text.Length && text[from] == ' ') from++;
        var start = from == text.Length ? 0 : from;
        if (start > 0 && start < text.Length) from = 0;
        for (var at = start; at < text.Length;)
        {
            var to = EndOf(text, at);
            while (Next(text, to) is var next && next < text.Length && MustStay(text, at, to, next)) to = EndOf(text, next);
            yield return (from, to);
            from = at = Next(text, to);
        }
    }

    private static int EndOf(string text, int at) => text.IndexOf(' ', at) is var space && space < 0 ? text.Length : space;

    private static int Next(string text, int at)
    {
        while (at < text.Length && text[at] == ' ') at++;
        return at;
    }

    /// <summary>Whether a word must stay beside the word before it: a unit behind its number, a dot between two facts.</summary>
    private static bool MustStay(string text, int from, int to, int next)
    {
        var word = text[next..EndOf(text, next)].TrimEnd(',', '.', ';', ':', ')');
        return Units.Contains(word) && (word == "·" || char.IsAsciiDigit(text[Math.Max(from, to - 1)]));
    }

    /// <summary>How many characters of a word go into so many columns; 0 if it is better to begin a new line.</summary>
    private static int Cut(ReadOnlySpan<char> word, int room)
    {
        var (taken, at, good, fair) = (0, 0, 0, 0);
        var before = default(Rune);
        foreach (var rune in word.EnumerateRunes())
        {
            var width = DisplayWidth.Measure(rune);
            if (at > 0 && width > 0)
            {
                if (DisplayWidth.Measure(before) == 2 || width == 2 || (before.IsAscii && GoodEnds.Contains((char)before.Value)))
                    good = at;
                if (!(Rune.IsDigit(before) && Rune.IsDigit(rune))) fair = at;
            }

            if (taken + width > room) break;
            (taken, at) = (taken + width, at + rune.Utf16SequenceLength);
            if (width > 0) before = rune;
        }

        return good > 0 ? good : fair > 0 ? fair : at;
    }
}
