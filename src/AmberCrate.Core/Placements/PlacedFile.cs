using AmberCrate.Core.Values;

namespace AmberCrate.Core.Placements;

/// <summary>A file of the shelf entry that is placed as it is, under a name of its own.</summary>
/// <param name="Name">The name that it gets.</param>
/// <param name="Path">The file inside the shelf entry.</param>
public sealed record PlacedFile(FileName Name, InsidePath Path);
