using AmberCrate.Core.Machine;
using AmberCrate.Core.Versions;

namespace AmberCrate.Core.Planning;

/// <summary>One installed app beside what its catalogue offers.</summary>
/// <param name="App">The app as installed.</param>
/// <param name="State">How it stands.</param>
/// <param name="Available">The newest release of what it follows; null unless newer than the installed one.</param>
/// <param name="Newer">The newest release that it does not follow; null unless newer than all that it does.</param>
/// <param name="ReleasesBehind">How many offered releases lie between: newer than the installed one, up to the one named.</param>
/// <param name="DaysBehind">How many days lie between the installed release and the one named.</param>
public sealed record DueEntry(
    InstalledApp App, DueState State, ReleaseChoice? Available, ReleaseChoice? Newer, int ReleasesBehind, int DaysBehind)
{
    /// <summary>What it follows: what was asked for, or else the line that it is on where that is not the usual one.</summary>
    internal VersionSelector? Followed => FollowedBy(App);

    /// <summary>Compares one installed app with what is offered.</summary>
    public static DueEntry Of(InstalledApp app, IOffers offers, MachineState machine)
    {
        var offer = offers.Find(app.Id).Where(offer => offer.Catalogue == app.Catalogue).ToList();
        if (offer.Count == 0) return new DueEntry(app, CatalogueStatus.Of(app.Catalogue, offers), null, null, 0, 0);

        var asked = FollowedBy(app);
        var available = NewerThan(ReleaseChoice.Find(offer, asked, machine.Platform), app.Version);
        var newer = app.IsHeld
            ? NewerThan(ReleaseChoice.Find(offer, null, machine.Platform), available?.Release.Version ?? app.Version)
            : null;
        var named = available ?? newer;
        if (named is null) return new DueEntry(app, DueState.Current, null, null, 0, 0);

        var releases = offer[0].Card.ReleasesFor(machine.Platform, available is null ? null : asked)
            .Count(release => release.Version > app.Version && release.Version <= named.Release.Version);
        var days = Math.Max(0, named.Release.Date.DayNumber - app.Released.DayNumber);
        return new DueEntry(app, available is null ? DueState.Follows : DueState.Due, available, newer, releases, days);
    }

    /// <summary>Compares every installed app with what is offered, ordered by id.</summary>
    public static IReadOnlyList<DueEntry> All(MachineState machine, IOffers offers)
    {
        offers.Expect(machine.Apps.Select(app => app.Id), everyRelease: false);
        return [.. machine.Apps.Select(app => Of(app, offers, machine))];
    }

    private static VersionSelector? FollowedBy(InstalledApp app) =>
        app.Follows ?? (app.Line == ReleaseLine.Stable ? null : new VersionSelector.OfLine(app.Line));

    private static ReleaseChoice? NewerThan(ReleaseChoice? choice, AppVersion than) =>
        choice is not null && choice.Release.Version > than ? choice : null;
}
