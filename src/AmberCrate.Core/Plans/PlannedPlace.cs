using AmberCrate.Core.Machine;

namespace AmberCrate.Core.Plans;

/// <summary>Something that a plan places outside the shelf.</summary>
/// <param name="App">The id of the app.</param>
/// <param name="Kind">What it is.</param>
/// <param name="Path">Its absolute path.</param>
/// <param name="Hides">For a new command: the program of that name that was found before; null where there is none.</param>
public sealed record PlannedPlace(string App, PlaceKind Kind, string Path, string? Hides = null)
{
    /// <summary>For a command: the program of that name that a shell goes on finding first; null where there is none.</summary>
    public string? FoundAfter { get; init; }

    /// <summary>Whether the installed version has placed it already.</summary>
    public bool IsThere { get; init; }
}
