namespace AmberCrate.Core.Values;

/// <summary>
/// Languages as AppStream and the POSIX locale names write them: <c>de</c>, <c>pt_BR</c>, <c>sr@latin</c>. A hyphen, as BCP 47
/// has it, counts as the underscore.
/// </summary>
public static class LanguageTag
{
    /// <summary>What one must look like, for messages.</summary>
    public const string Expected = "a language such as de, pt_BR or sr@latin";

    private const int ShortestCode = 2, LongestCode = 3, LongestPart = 10;

    /// <summary>Reads one, and brings it into the usual form; false where it is none.</summary>
    public static bool TryParse(string text, out string? tag)
    {
        tag = null;
        var (place, variant) = Split(text.Replace('-', '_'), '@');
        var (code, region) = Split(place, '_');
        if (code.Length is < ShortestCode or > LongestCode || !code.All(char.IsAsciiLetter) || !IsPart(region)
            || !IsPart(variant)) return false;
        tag = code.ToLowerInvariant() + (region.Length > 0 ? "_" + region : "")
            + (variant.Length > 0 ? "@" + variant.ToLowerInvariant() : "");
        return true;
    }

    /// <summary>
    /// The languages that a locale of the environment asks for, the most exact first: <c>de_AT</c> and <c>de</c> for
    /// <c>de_AT.UTF-8</c>. None for English, which every card has, and for <c>C</c>, <c>POSIX</c> and what is no locale.
    /// </summary>
    public static IReadOnlyList<string> ListFallbacks(string? locale)
    {
        var (place, variant) = Split(locale ?? "", '@');
        var (name, _) = Split(place, '.');
        if (!TryParse(variant.Length > 0 ? $"{name}@{variant}" : name, out var tag)) return [];
        var (plain, _) = Split(tag!, '@');
        var (code, _) = Split(plain, '_');
        return code == "en" ? [] : [.. new[] { tag!, plain, variant.Length > 0 ? $"{code}@{variant}" : code, code }.Distinct()];
    }

    private static bool IsPart(string part) => part.Length <= LongestPart && part.All(char.IsAsciiLetterOrDigit);

    private static (string Before, string Behind) Split(string text, char mark) =>
        text.IndexOf(mark, StringComparison.Ordinal) is >= 0 and var at ? (text[..at], text[(at + 1)..]) : (text, "");
}
