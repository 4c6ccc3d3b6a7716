namespace AmberCrate.Core.Cards;

/// <summary>
/// How long the texts of a card may be, in characters, and how large its numbers; the same in both of its forms.
/// </summary>
internal static class CardLimits
{
    /// <summary>How long an installer may be allowed, in seconds.</summary>
    public const int InstallerSeconds = 7200;

    /// <summary>How long a check may be allowed, in seconds.</summary>
    public const int CheckSeconds = 300;

    /// <summary>The largest exit code.</summary>
    public const int ExitCode = 255;

    public const int Name = 100, Summary = 200, Description = 20_000, Word = 100, Text = 1000;

    public const long Size = 1L << 50;

    public const int Strip = 20, Mirrors = 20;

    /// <summary>Whether this is the address of a page.</summary>
    public static bool IsHomepage(string text) =>
        Uri.TryCreate(text, UriKind.Absolute, out var uri)
            && (uri.Scheme == Uri.UriSchemeHttp || uri.Scheme == Uri.UriSchemeHttps);
}
