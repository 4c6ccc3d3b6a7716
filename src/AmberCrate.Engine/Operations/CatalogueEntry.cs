using AmberCrate.Engine.Catalogues;
using AmberCrate.Engine.Trust;

namespace AmberCrate.Engine.Operations;

/// <summary>A catalogue of a machine.</summary>
/// <param name="Catalogue">The catalogue.</param>
/// <param name="State">What is known of it; null where it was never fetched.</param>
public sealed record CatalogueEntry(RegisteredCatalogue Catalogue, CatalogueState? State)
{
    /// <summary>What is believed of it; null where it is not signed.</summary>
    public TrustState? Trust { get; init; }
}
