using AmberCrate.Core.Values;

namespace AmberCrate.Core.Machine;

/// <summary>
/// One thing placed outside the shelf. It says enough to place it again from the shelf alone, which is what
/// makes a half-done change revertible.
/// </summary>
/// <param name="Kind">The folder it is placed in.</param>
/// <param name="Name">Its path inside that folder.</param>
/// <param name="Source">The file inside the shelf entry; null where there is a text.</param>
/// <param name="Content">The whole text of what is written, such as desktop entries; null where there is a file.</param>
public sealed record PlacedItem(PlaceKind Kind, string Name, InsidePath? Source, string? Content)
{
    /// <summary>The digest of the placed file's bytes; null for links, and until it has been placed.</summary>
    public Sha256Digest? Sha256 { get; init; }

    /// <summary>Whether both are at the same place.</summary>
    public bool IsAt(PlacedItem other) => Kind == other.Kind && Name == other.Name;
}
