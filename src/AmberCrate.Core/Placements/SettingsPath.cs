using System.Diagnostics.CodeAnalysis;
using AmberCrate.Core.Values;

namespace AmberCrate.Core.Placements;

/// <summary>
/// A file or folder below a user's home where an app keeps settings or data. Only the folders that are made for that may be
/// named, and never one of them as a whole, since a card comes from someone else.
/// </summary>
public static class SettingsPath
{
    /// <summary>What such a path must look like, for messages.</summary>
    public const string Expected =
        "something inside ~/.config, ~/.local/share, ~/.local/state or ~/.cache, such as ~/.config/scrim-paint";

    private static readonly string[] Folders = [".config/", ".local/share/", ".local/state/", ".cache/"];

    /// <summary>What belongs to the desktop or to this program, and to no app.</summary>
    private static readonly string[] Common =
    [
        "amber-crate", "applications", "autostart", "icons", "fonts", "mime", "man", "systemd", "user-dirs.dirs", "mimeapps.list",
        "Trash", "keyrings", "dconf", "bash-completion", "zsh", "fish", "environment.d",
    ];

    /// <summary>Reads such a path.</summary>
    /// <param name="text">The text.</param>
    /// <param name="path">The path, with its <c>~/</c>.</param>
    public static bool TryParse(string text, [NotNullWhen(true)] out string? path)
    {
        path = null;
        if (!text.StartsWith("~/", StringComparison.Ordinal) || !InsidePath.TryParse(text[2..], out var inside)) return false;
        var folder = Array.Find(Folders, folder => inside.Text.StartsWith(folder, StringComparison.Ordinal));
        if (folder is null || Common.Contains(inside.Text[folder.Length..].Split('/')[0], StringComparer.OrdinalIgnoreCase))
            return false;
        path = $"~/{inside.Text}";
        return true;
    }
}
