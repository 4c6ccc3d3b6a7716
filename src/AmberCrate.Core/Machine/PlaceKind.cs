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

    /// <summary>The folder for descriptions of file types.</summary>
    MimeType,

    /// <summary>The folders for manual pages.</summary>
    ManualPage,

    /// <summary>The folders where shells look for completions.</summary>
    Completion,

    /// <summary>The folder for fonts.</summary>
    Font,

    /// <summary>The folder for what is started when a user signs in.</summary>
    Autostart,
}
