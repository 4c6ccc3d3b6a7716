using AmberCrate.Core.Values;

namespace AmberCrate.Core.Cards;

/// <summary>What an app is: the component types of AppStream that a catalogue can offer.</summary>
public enum AppKind
{
    /// <summary>AppStream <c>desktop-application</c>: a program with windows.</summary>
    DesktopApp,

    /// <summary>AppStream <c>console-application</c>: a program for the terminal.</summary>
    ConsoleApp,

    /// <summary>AppStream <c>runtime</c>: something that other apps need.</summary>
    Runtime,

    /// <summary>AppStream <c>font</c>.</summary>
    Font,
}

/// <content>The words for <see cref="AppKind"/>.</content>
public static partial class CardWords
{
    /// <summary>AppStream's component types.</summary>
    public static WordTable<AppKind> Kinds { get; } = new(
        (AppKind.DesktopApp, "desktop-application"),
        (AppKind.ConsoleApp, "console-application"),
        (AppKind.Runtime, "runtime"),
        (AppKind.Font, "font"));
}
