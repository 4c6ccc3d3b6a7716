using AmberCrate.Engine.Catalogues;
using AmberCrate.Engine.Trust;

namespace AmberCrate.Engine.Cataloguing;

/// <summary>A catalogue of a machine.</summary>
/// <param name="Catalogue">The catalogue.</param>
/// <param name="State">Its data; null where it was never fetched.</param>
public sealed record CatalogueEntry(RegisteredCatalogue Catalogue, CatalogueState? State)
{
    /// <summary>The role of its signatures that ends first; null where it is not signed, or nothing is believed.</summary>
    public RoleState? EndsFirst { get; init; }
}
