using AmberCrate.Core.Catalogues;
using AmberCrate.Engine.Trust;

namespace AmberCrate.Engine.Publishing;

/// <summary>What a publication has done.</summary>
/// <param name="Document">The entry document.</param>
/// <param name="Signing">What was signed; null if nothing is.</param>
/// <param name="Pruned">The artifacts that were removed.</param>
/// <param name="Pages">How many pages there are for a browser.</param>
public sealed record Publication(CatalogueDocument Document, Signing? Signing, IReadOnlyList<string> Pruned, int Pages)
{
    /// <summary>Whether the pages stay as they are until what they would show has been signed by everybody.</summary>
    public bool DoPagesWait { get; init; }

    /// <summary>Why the apps of other maintainers are not on the pages; null where they are, or where there are none.</summary>
    public string? WithoutOthers { get; init; }
}
