using AmberCrate.Cli.Shared;
using AmberCrate.Core.Cards;
using AmberCrate.Core.Offers;
using AmberCrate.Core.Values;
using AmberCrate.Engine.Layout;

namespace AmberCrate.Cli.Searching;

/// <summary>The same app in another catalogue, as JSON.</summary>
internal sealed record OtherOfferDocument(
    string Catalogue,
    string Scope,
    string? Developer,
    string Review,
    ChoiceDocument? WouldInstall,
    IReadOnlyList<string> DiffersIn)
{
    public static OtherOfferDocument FromOffer(OtherOffer other, MachineLayout layout) => new(
        other.Offer.Catalogue.Text, ScopeWords.Scopes.WordOf(layout.Scope), other.Offer.Card.Developer?.Name,
        CardWords.ReviewStates.WordOf(other.Offer.Card.Review.State),
        ChoiceDocument.OfMaybe(other.Choice, layout), [.. other.Differences]);
}
