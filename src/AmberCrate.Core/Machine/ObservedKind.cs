using AmberCrate.Core.Values;

namespace AmberCrate.Core.Machine;

/// <summary>As what software is on a machine that this program has not put there.</summary>
public enum ObservedKind
{
    /// <summary>A package of the system.</summary>
    SystemPackage,

    /// <summary>An entry in the desktop's menu.</summary>
    DesktopEntry,

    /// <summary>An AppImage.</summary>
    AppImage,

    /// <summary>A folder among those for other software.</summary>
    Folder,
}

/// <summary>The words for <see cref="ObservedKind"/>, in JSON.</summary>
public static class ObservedWords
{
    /// <summary>A word for each kind.</summary>
    public static WordTable<ObservedKind> Kinds { get; } = new(
        (ObservedKind.SystemPackage, "system-package"), (ObservedKind.DesktopEntry, "desktop-entry"),
        (ObservedKind.AppImage, "appimage"), (ObservedKind.Folder, "folder"));
}
