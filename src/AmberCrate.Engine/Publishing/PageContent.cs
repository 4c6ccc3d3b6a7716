using AmberCrate.Core.Cards;
using AmberCrate.Core.Catalogues;
using AmberCrate.Core.Values;

namespace AmberCrate.Engine.Publishing;

/// <summary>What a catalogue's pages are made of.</summary>
/// <param name="Document">The entry document.</param>
/// <param name="Cards">The cards.</param>
/// <param name="Pictures">For each picture that is beside the cards, its path in the published folder.</param>
public sealed record PageContent(
    CatalogueDocument Document, IReadOnlyList<AppCard> Cards, IReadOnlyDictionary<string, string> Pictures)
{
    /// <summary>The digest of the root under which the catalogue is signed; null where it is not.</summary>
    public Sha256Digest? Root { get; init; }
}
