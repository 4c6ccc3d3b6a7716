using AmberCrate.Core.Values;

namespace AmberCrate.Core.Placements;

/// <summary>
/// The folders of a shelf entry that hold what programs look for. A program that was built for <c>/usr</c> does not know that it
/// is elsewhere; variables say so.
/// </summary>
/// <param name="Kind">What is in them.</param>
/// <param name="Paths">The folders, in the order of the search.</param>
public sealed record OwnFolders(OwnFolderKind Kind, IReadOnlyList<InsidePath> Paths);

/// <summary>What programs look for in folders of their own.</summary>
public enum OwnFolderKind
{
    /// <summary>Modules of Python.</summary>
    Python,

    /// <summary>Modules of Perl.</summary>
    Perl,

    /// <summary>Data below a <c>share</c> folder, after the XDG Base Directory specification.</summary>
    Data,

    /// <summary>Typelibs for GObject introspection.</summary>
    Typelibs,

    /// <summary>Plugins of Qt.</summary>
    QtPlugins,

    /// <summary>Shared libraries.</summary>
    Libraries,
}

/// <summary>The facts about each kind of own folder: one row each.</summary>
/// <param name="Kind">The kind.</param>
/// <param name="Word">Its key in a card.</param>
/// <param name="Variable">The variable that is set, a list of folders with colons between them.</param>
/// <param name="Otherwise">What the variable means where it is not set; empty for nothing.</param>
/// <param name="Meaning">What is in the folders, for the documentation.</param>
public sealed record OwnFolderRow(OwnFolderKind Kind, string Word, string Variable, string Otherwise, string Meaning)
{
    /// <summary>All kinds.</summary>
    public static IReadOnlyList<OwnFolderRow> All { get; } =
    [
        new(OwnFolderKind.Python, "python", "PYTHONPATH", "", "modules of Python"),
        new(OwnFolderKind.Perl, "perl", "PERL5LIB", "", "modules of Perl"),
        new(OwnFolderKind.Data, "data", "XDG_DATA_DIRS", "/usr/local/share:/usr/share",
            "data, each a `share` folder of the XDG Base Directory specification"),
        new(OwnFolderKind.Typelibs, "typelibs", "GI_TYPELIB_PATH", "", "typelibs"),
        new(OwnFolderKind.QtPlugins, "qt_plugins", "QT_PLUGIN_PATH", "", "plugins of Qt"),
        new(OwnFolderKind.Libraries, "libraries", "LD_LIBRARY_PATH", "", "shared libraries"),
    ];

    /// <summary>The row of a kind.</summary>
    public static OwnFolderRow Find(OwnFolderKind kind) => All.First(row => row.Kind == kind);
}
