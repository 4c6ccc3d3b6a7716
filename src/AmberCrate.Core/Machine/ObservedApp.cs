using AmberCrate.Core.Versions;

namespace AmberCrate.Core.Machine;

/// <summary>Software on a machine that this program has not put there.</summary>
/// <param name="Kind">As what it is there.</param>
/// <param name="Name">The name that it has there: of a package, of a menu entry without <c>.desktop</c>, of a file or
/// folder.</param>
public sealed record ObservedApp(ObservedKind Kind, string Name)
{
    /// <summary>The name for people; null where nothing tells it.</summary>
    public string? Title { get; init; }

    /// <summary>The version as it is written there; null where nothing tells it.</summary>
    public string? VersionText { get; init; }

    /// <summary>Where it was seen.</summary>
    public IReadOnlyList<string> Places { get; init; } = [];

    /// <summary>The ids of its menu entries, without <c>.desktop</c>.</summary>
    public IReadOnlyList<string> DesktopIds { get; init; } = [];

    /// <summary>The name of the program that it starts; null where nothing tells it.</summary>
    public string? Program { get; init; }

    /// <summary>Whether the system does not work without it.</summary>
    public bool IsProtected { get; init; }

    /// <summary>How many bytes it takes; null where nothing tells it.</summary>
    public long? Size { get; init; }

    /// <summary>How whoever put it there removes it, in words; null where that is unknown.</summary>
    public string? Removal { get; init; }

    /// <summary>
    /// The version of the software itself, without what the system's packagers add (Debian policy 5.6.12: epoch and revision);
    /// null where there is none.
    /// </summary>
    public AppVersion? Version
    {
        get
        {
            if (VersionText is not { Length: > 0 } text) return null;
            if (Kind == ObservedKind.SystemPackage)
            {
                var (colon, hyphen) = (text.IndexOf(':', StringComparison.Ordinal), text.LastIndexOf('-'));
                text = text[(colon + 1)..(hyphen > colon ? hyphen : text.Length)];
                var repacked = text.IndexOfAny(['+', '~']);
                if (repacked > 0 && (text[(repacked + 1)..].StartsWith("dfsg", StringComparison.Ordinal)
                    || text[(repacked + 1)..].StartsWith("ds", StringComparison.Ordinal))) text = text[..repacked];
            }

            return AppVersion.TryParse(text, out var version) ? version : null;
        }
    }

    /// <summary>As what it is there, in words.</summary>
    public string KindWords => Kind switch
    {
        ObservedKind.SystemPackage => "system package",
        ObservedKind.DesktopEntry => "menu entry",
        ObservedKind.AppImage => "AppImage",
        ObservedKind.Folder => "folder",
    };

    /// <summary>What it is called in a sentence, such as <c>system package gauze 2.39</c>.</summary>
    public string Words => $"{KindWords} {Name}{(VersionText is null ? "" : $" {VersionText}")}";
}
