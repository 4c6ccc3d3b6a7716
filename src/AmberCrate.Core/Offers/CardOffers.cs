using AmberCrate.Core.Searching;
using AmberCrate.Core.Values;

namespace AmberCrate.Core.Offers;

/// <summary>What some cards offer that are held in memory, each catalogue with its own.</summary>
/// <param name="offers">The offers, in order of preference of their catalogues.</param>
public sealed class CardOffers(IReadOnlyList<Offer> offers) : IOffers
{
    private const int MostCandidates = 5;

    private readonly ILookup<AppId, Offer> _byId = offers.ToLookup(offer => offer.Card.Id);

    /// <inheritdoc/>
    public IReadOnlyList<CatalogueName> Catalogues { get; } = [.. offers.Select(offer => offer.Catalogue).Distinct()];

    /// <inheritdoc/>
    public IReadOnlyList<CatalogueName> Paused => [];

    /// <inheritdoc/>
    public IReadOnlyList<CatalogueName> Unfetched => [];

    /// <inheritdoc/>
    public void Expect(IEnumerable<AppId> ids, bool everyRelease)
    {
        // They are in memory.
    }

    /// <inheritdoc/>
    public IReadOnlyList<Offer> Find(AppId id) => [.. _byId[id]];

    /// <inheritdoc/>
    public IReadOnlyList<AppId> Named(string squashed) => [.. offers
        .Where(offer => SearchText.Squash(offer.Card.Id.Text) == squashed || SearchText.Squash(offer.Card.Name) == squashed)
        .Select(offer => offer.Card.Id)
        .Distinct()];

    /// <inheritdoc/>
    public IReadOnlyList<AppId> Closest(string name) =>
        [.. NameDistance.Nearest(name, offers.Select(offer => offer.Card.Id.Text).Distinct(), MostCandidates)
            .Select(AppId.Parse)];
}
