using AmberCrate.Core.Machine;

namespace AmberCrate.Core.Planning;

/// <summary>Something that a plan places outside the shelf.</summary>
/// <param name="App">The id of the app.</param>
/// <param name="Kind">What it is.</param>
/// <param name="Path">Its absolute path.</param>
public sealed record PlannedPlace(string App, PlaceKind Kind, string Path);
