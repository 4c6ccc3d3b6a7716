using AmberCrate.Core.Offers;
using AmberCrate.Core.Values;

namespace AmberCrate.Core.Due;

/// <summary>Why a catalogue offers nothing of an installed app that came from it.</summary>
public static class CatalogueStatus
{
    /// <summary>The state of an app that its catalogue does not offer.</summary>
    public static DueState FindState(CatalogueName catalogue, IOffers offers) =>
        offers.Paused.Contains(catalogue) ? DueState.Paused
        : !offers.Catalogues.Contains(catalogue) ? DueState.Dropped
        : offers.Unfetched.Contains(catalogue) ? DueState.NotFetched
        : DueState.NotOffered;

    /// <summary>The same in words.</summary>
    public static string Words(CatalogueName catalogue, IOffers offers) => FindState(catalogue, offers) switch
    {
        DueState.Paused => $"the catalogue {catalogue} is paused",
        DueState.Dropped => $"the catalogue {catalogue} is not here any more",
        DueState.NotFetched => $"the catalogue {catalogue} has never been refreshed",
        DueState.Current or DueState.Due or DueState.Changed or DueState.Pinned or DueState.Follows or DueState.HeldBack
            or DueState.UpdatesItself or DueState.OtherPlatform or DueState.NotOffered =>
                $"{catalogue} does not offer it any more",
    };
}
