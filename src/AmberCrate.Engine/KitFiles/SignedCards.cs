using AmberCrate.Core.Cards;
using AmberCrate.Core.Values;

namespace AmberCrate.Engine.KitFiles;

/// <summary>Cards of a kit that a signed catalogue vouches for.</summary>
/// <param name="Catalogue">The address of the catalogue.</param>
/// <param name="Root">The digest of the root that was trusted first.</param>
/// <param name="Cards">The cards.</param>
/// <param name="Now">The time now.</param>
internal sealed record SignedCards(Uri Catalogue, Sha256Digest Root, IReadOnlyList<AppCard> Cards, DateTimeOffset Now);
