using AmberCrate.Core.Values;

namespace AmberCrate.Core.Placements;

/// <summary>An entry in the desktop's menu, either shipped with the app or written from its card.</summary>
public sealed record PlacedDesktopEntry
{
    /// <summary>The entry's file name without <c>.desktop</c>.</summary>
    public required FileName Name { get; init; }

    /// <summary>The command of this app that the entry starts.</summary>
    public required FileName Command { get; init; }

    /// <summary>What follows the command in Exec, such as <c>%F</c>; empty for nothing.</summary>
    public string Arguments { get; init; } = "";

    /// <summary>The entry inside the shelf entry that is taken over; null to write one from the card.</summary>
    public InsidePath? Path { get; init; }

    /// <summary>The icon's name; null for the first icon that the app places.</summary>
    public FileName? Icon { get; init; }
}
