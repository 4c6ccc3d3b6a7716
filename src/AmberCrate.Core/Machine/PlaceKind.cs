namespace AmberCrate.Core.Machine;

/// <summary>The folders outside the shelf into which an app places files.</summary>
public enum PlaceKind
{
    /// <summary>The folder for programs.</summary>
    Command,

    /// <summary>The folder for menu entries.</summary>
    DesktopEntry,

    /// <summary>The hicolor icon theme.</summary>
    Icon,
}
