using AmberCrate.Core.Cards;
using AmberCrate.Core.Catalogues;

namespace AmberCrate.Engine.Publishing;

/// <summary>What is published as a catalogue.</summary>
/// <param name="Settings">What the catalogue says about itself.</param>
/// <param name="Cards">The cards, each id once.</param>
public sealed record CatalogueContent(CatalogueSettings Settings, IEnumerable<AppCard> Cards)
{
    /// <summary>The bundles that it carries.</summary>
    public IReadOnlyList<(BundleListing Listing, byte[] Text)> Bundles { get; init; } = [];

    /// <summary>How many machines have its apps; null if not counted.</summary>
    public Popularity? Popularity { get; init; }
}
