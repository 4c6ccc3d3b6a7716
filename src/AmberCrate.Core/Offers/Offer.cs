using AmberCrate.Core.Cards;
using AmberCrate.Core.Values;

namespace AmberCrate.Core.Offers;

/// <summary>An app as one catalogue offers it.</summary>
/// <param name="Catalogue">The catalogue.</param>
/// <param name="Base">The address of the catalogue's folder, from which relative locations are taken.</param>
/// <param name="Card">What the catalogue says.</param>
public sealed record Offer(CatalogueName Catalogue, Uri Base, AppCard Card);
