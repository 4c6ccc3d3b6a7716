using AmberCrate.Engine.Catalogues;

namespace AmberCrate.Engine.Operations;

/// <summary>A catalogue of a machine.</summary>
/// <param name="Catalogue">The catalogue.</param>
/// <param name="State">What is known of it; null where it was never fetched.</param>
public sealed record CatalogueEntry(RegisteredCatalogue Catalogue, CatalogueState? State);
