using AmberCrate.Core.Values;
using AmberCrate.Core.Versions;

namespace AmberCrate.Core.Cards;

/// <summary>
/// Where an installed app says which version it is: the first that is given of file, command and desktop entry.
/// </summary>
public sealed record VersionSource
{
    private const int MostText = 1 << 16;

    private static readonly char[] Between = [' ', '\t', '\r', '\n', '"', '\'', '=', ':', ',', ';', '(', ')', '[', ']'];

    /// <summary>A text file in the app's folder.</summary>
    public InsidePath? File { get; init; }

    /// <summary>One of the app's commands, which tells it; it is started confined.</summary>
    public FileName? Command { get; init; }

    /// <summary>What the command is started with.</summary>
    public IReadOnlyList<string> Arguments { get; init; } = [];

    /// <summary>One of the app's menu entries; its key <c>X-AppVersion</c> has the version.</summary>
    public FileName? DesktopEntry { get; init; }

    /// <summary>What comes before the version in the text; empty for the first word that is a version.</summary>
    public string Behind { get; init; } = "";

    /// <summary>Finds the version in what the source says: the first word that is one; null for none.</summary>
    /// <param name="text">The text; no more than 64 KiB of it is looked at.</param>
    public AppVersion? FindIn(string text)
    {
        if (text.Length > MostText) text = text[..MostText];
        if (Behind.Length > 0)
        {
            var at = text.IndexOf(Behind, StringComparison.Ordinal);
            if (at < 0) return null;
            text = text[(at + Behind.Length)..];
        }

        foreach (var word in text.Split(Between, StringSplitOptions.RemoveEmptyEntries))
        {
            var number = word.Length > 1 && word[0] is 'v' or 'V' ? word[1..] : word;
            if (number.Length > 0 && char.IsAsciiDigit(number[0]) && AppVersion.TryParse(number.TrimEnd('.'), out var version))
                return version;
        }

        return null;
    }
}
