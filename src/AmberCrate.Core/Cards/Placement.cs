namespace AmberCrate.Core.Cards;

/// <summary>What an app puts outside the shelf so that people and the desktop find it.</summary>
public sealed record Placement
{
    /// <summary>Nothing.</summary>
    public static Placement Nothing { get; } = new();

    /// <summary>Commands in the folder for programs.</summary>
    public IReadOnlyList<PlacedCommand> Commands { get; init; } = [];

    /// <summary>Entries in the desktop's menu.</summary>
    public IReadOnlyList<PlacedDesktopEntry> DesktopEntries { get; init; } = [];

    /// <summary>Icons in the icon theme.</summary>
    public IReadOnlyList<PlacedIcon> Icons { get; init; } = [];
}
