using AmberCrate.Engine.Catalogues;
using AmberCrate.Engine.Trust;

namespace AmberCrate.Engine.Cataloguing;

/// <summary>The data and the trust of a catalogue.</summary>
/// <param name="Catalogue">The catalogue.</param>
/// <param name="State">Its data; null where it was never fetched.</param>
/// <param name="Trust">What is believed; null where it is not signed, or nothing of what was believed is there.</param>
/// <param name="Now">The time now.</param>
public sealed record CatalogueAbout(RegisteredCatalogue Catalogue, CatalogueState? State, TrustState? Trust, DateTimeOffset Now);
