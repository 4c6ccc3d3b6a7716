using AmberCrate.Core.Values;

namespace AmberCrate.Core.Placements;

/// <summary>What a mapped start may lay over the system: things of an app's own, and never what others rely on.</summary>
public static class MappedPath
{
    /// <summary>What one looks like, for messages.</summary>
    public const string Expected =
        "a path of letters, digits and . _ + - below usr/share, usr/lib, usr/libexec, usr/games or opt, none in another, such as "
            + "usr/share/scrim";

    /// <summary>A pattern for the paths that a program composes below <c>/usr/share</c> or <c>/usr/lib</c>.</summary>
    public const string AnyShare = "/usr/share/*", AnyLibrary = "/usr/lib/*";

    private static readonly string[] Tops = ["usr/share/", "usr/lib/", "usr/lib64/", "usr/libexec/", "usr/games/", "opt/"];

    /// <summary>Folders that many apps and the system share.</summary>
    private static readonly HashSet<string> Shared = new(
        ["usr/share/applications", "usr/share/icons", "usr/share/doc", "usr/share/man", "usr/share/mime", "usr/share/locale",
            "usr/share/fonts", "usr/share/glib-2.0", "usr/share/metainfo", "usr/share/themes", "usr/share/pixmaps",
            "usr/share/perl5", "usr/share/zoneinfo", "usr/share/dbus-1", "usr/share/X11", "usr/lib/python3", "usr/lib/systemd",
            "usr/lib/modules", "usr/lib/locale", "usr/lib/security"], StringComparer.Ordinal);

    /// <summary>Folders of packages that no program reads as its own data.</summary>
    private static readonly HashSet<string> Unread = new(
        ["doc-base", "appdata", "lintian", "bug", "bash-completion", "zsh", "fish", "menu", "pkgconfig", "cmake"],
        StringComparer.Ordinal);

    /// <summary>Whether no program reads a folder of a package as its own data.</summary>
    /// <param name="name">The folder's name.</param>
    public static bool IsUnread(string name) => Unread.Contains(name);

    /// <summary>Whether a path is a pattern.</summary>
    /// <param name="path">The path.</param>
    public static bool IsAny(string path) => path is AnyShare or AnyLibrary;

    /// <summary>The folder of a pattern.</summary>
    /// <param name="any">The pattern.</param>
    public static string FolderOf(string any) => any[..^2];

    /// <summary>Whether a path of a shelf entry may be mapped.</summary>
    public static bool IsValid(InsidePath path) =>
        path.Text.All(letter => char.IsAsciiLetterOrDigit(letter) || letter is '.' or '_' or '+' or '-' or '/')
        && Tops.Any(top => path.Text.Length > top.Length && path.Text.StartsWith(top, StringComparison.Ordinal))
        && !Shared.Contains(path.Text) && !path.Text.EndsWith("-linux-gnu", StringComparison.Ordinal);

    /// <summary>Whether a folder holds data that only its app's programs look for.</summary>
    /// <param name="folder">Its absolute path.</param>
    public static bool IsOwnFolder(string folder) => InsidePath.TryParse(folder.TrimStart('/'), out var path) && IsValid(path)
        && !IsUnread(folder[(folder.LastIndexOf('/') + 1)..]);

    /// <summary>
    /// The part of a package that a program names by its path below the root: the highest folder that is the package's own; null
    /// where there is none.
    /// </summary>
    /// <param name="named">The absolute path.</param>
    public static InsidePath? Find(string named)
    {
        var parts = named.Trim('/').Split('/');
        for (var count = 2; count <= parts.Length; count++)
        {
            if (InsidePath.TryParse(string.Join('/', parts.Take(count)), out var path) && IsValid(path)) return path;
        }

        return null;
    }
}
