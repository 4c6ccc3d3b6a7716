namespace AmberCrate.Core.Placements;

/// <summary>Types of file, as RFC 6838 writes them: <c>image/svg+xml</c>.</summary>
public static class MimeType
{
    /// <summary>What one must look like, for messages.</summary>
    public const string Expected = "a type of file such as image/svg+xml";

    /// <summary>Reads one, in lower case; false where it is none.</summary>
    public static bool TryParse(string text, out string? type)
    {
        type = text.ToLowerInvariant();
        var slash = type.IndexOf('/', StringComparison.Ordinal);
        return slash > 0 && slash < type.Length - 1 && type.IndexOf('/', slash + 1) < 0 && type.All(IsLetter);
    }

    private static bool IsLetter(char letter) =>
        char.IsAsciiLetterLower(letter) || char.IsAsciiDigit(letter) || "/!#$&-^_.+".Contains(letter, StringComparison.Ordinal);
}
