using AmberCrate.Core.Cards;
using AmberCrate.Core.Formats;
using AmberCrate.Core.Placements;
using AmberCrate.Core.Values;

namespace AmberCrate.Core.CardFiles;

/// <summary>How the values that several keys of a card have are written.</summary>
internal static class CardFormats
{
    /// <summary>The most characters of a list's strings.</summary>
    public const int Word = 100;

    /// <summary>The most characters of other texts.</summary>
    public const int Text = 1000;

    public static ValueFormat<string> Names { get; } = new TextFormat(100, isOneLine: true);

    public static ValueFormat<string> Summaries { get; } = new TextFormat(200, isOneLine: true);

    public static ValueFormat<string> Paragraphs { get; } = new TextFormat(20_000);

    public static ValueFormat<string> Texts { get; } = new TextFormat(Text);

    public static ValueFormat<string> OneLine { get; } =
        new TextFormat(Text, text => !text.Any(char.IsControl), "one line without control characters");

    public static ValueFormat<IReadOnlyList<string>> Words { get; } = StringsThat(_ => true, "", Word);

    public static ValueFormat<DateOnly> Dates { get; } = new DateFormat();

    public static ValueFormat<FileName> FileNames { get; } =
        new ParsedFormat<FileName>(FileName.TryParse, FileName.Expected, name => name.Text);

    public static ValueFormat<FileName> CommandNames { get; } =
        new ParsedFormat<FileName>(CommandNameRule.TryParse, CommandNameRule.Expected, name => name.Text);

    public static ValueFormat<InsidePath> InsidePaths { get; } =
        new ParsedFormat<InsidePath>(InsidePath.TryParse, InsidePath.Expected, path => path.Text);

    public static ValueFormat<IReadOnlyList<RelatedApp>> Related { get; } =
        new ParsedListFormat<RelatedApp>(RelatedApp.TryParse, RelatedApp.Expected, other => other.ToString(), Word);

    /// <summary>An array of strings that must each meet a condition.</summary>
    public static ValueFormat<IReadOnlyList<string>> StringsThat(Func<string, bool> isValid, string expected, int longest) =>
        new ParsedListFormat<string>(
            (string text, out string? value) =>
            {
                value = text;
                return isValid(text);
            },
            expected,
            text => text,
            longest);

    /// <summary>Whether a text is an address for a browser.</summary>
    public static bool IsPage(string text) =>
        Uri.TryCreate(text, UriKind.Absolute, out var uri)
            && (uri.Scheme == Uri.UriSchemeHttp || uri.Scheme == Uri.UriSchemeHttps);

    /// <summary>A table of its own for a key.</summary>
    public static ValueFormat<T> One<T>(KeyTable<T> keys, bool isReadLater = false)
        where T : class => new TableFormat<T>(keys, isReadLater);

    /// <summary>Tables for a key.</summary>
    public static ValueFormat<IReadOnlyList<T>> Many<T>(KeyTable<T> keys, bool isReadLater = false)
        where T : class => new TableListFormat<T>(keys, isReadLater);
}
