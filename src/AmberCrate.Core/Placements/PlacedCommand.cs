using AmberCrate.Core.Values;

namespace AmberCrate.Core.Placements;

/// <summary>A command that starts the app.</summary>
/// <param name="Name">What a user types.</param>
/// <param name="Path">The executable inside the shelf entry.</param>
public sealed record PlacedCommand(FileName Name, InsidePath Path);
