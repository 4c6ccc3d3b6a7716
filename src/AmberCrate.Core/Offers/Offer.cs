using AmberCrate.Core.Cards;
using AmberCrate.Core.Values;

namespace AmberCrate.Core.Offers;

/// <summary>An app as one catalogue offers it.</summary>
/// <param name="Catalogue">The catalogue.</param>
/// <param name="Base">The base address of relative locations.</param>
/// <param name="Card">What the catalogue says.</param>
public sealed record Offer(CatalogueName Catalogue, Uri Base, AppCard Card);
