using System.Text;

namespace AmberCrate.Cli.Terminal;

/// <summary>The signs that a terminal can show: under a locale that is not UTF-8, plain ones instead of ours.</summary>
internal static class Signs
{
    private static readonly Lazy<bool> HasAll = new(() => IsUtf8(Environment.GetEnvironmentVariable));

    /// <summary>Whether the terminal shows every sign.</summary>
    public static bool AreAllShown => HasAll.Value;

    /// <summary>A text as the terminal can show it.</summary>
    public static string Shown(string text) => AreAllShown || Ascii.IsValid(text) ? text : Plain(text);

    /// <summary>Whether the locale says that text is UTF-8: the first variable that is set decides (POSIX, locale).</summary>
    /// <param name="variable">Reads an environment variable.</param>
    public static bool IsUtf8(Func<string, string?> variable)
    {
        var locale = variable("LC_ALL") is { Length: > 0 } all ? all
            : variable("LC_CTYPE") is { Length: > 0 } type ? type
            : variable("LANG") ?? "";
        return locale.Contains("UTF-8", StringComparison.OrdinalIgnoreCase)
            || locale.Contains("UTF8", StringComparison.OrdinalIgnoreCase);
    }

    /// <summary>A text in ASCII: our own signs as plain ones, others as question marks.</summary>
    public static string Plain(string text)
    {
        var plain = new StringBuilder(text.Length);
        foreach (var rune in text.EnumerateRunes())
        {
            if (rune.IsAscii) plain.Append((char)rune.Value);
            else plain.Append(rune.Value switch { '·' => "-", '…' => "...", '▣' => "#", '▢' => ".", _ => "?" });
        }

        return plain.ToString();
    }
}
