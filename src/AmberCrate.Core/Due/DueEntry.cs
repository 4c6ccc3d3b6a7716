using AmberCrate.Core.Cards;
using AmberCrate.Core.Machine;
using AmberCrate.Core.Offers;
using AmberCrate.Core.Pins;
using AmberCrate.Core.Searching;
using AmberCrate.Core.Values;
using AmberCrate.Core.Versions;

namespace AmberCrate.Core.Due;

/// <summary>One installed app beside what its catalogue offers.</summary>
/// <param name="App">The app as installed.</param>
/// <param name="State">Its state.</param>
/// <param name="Available">The newest release of what it follows; null unless newer than the installed one.</param>
/// <param name="Newer">The newest release that it does not follow; null unless newer than all that it does.</param>
/// <param name="ReleasesBehind">How many offered releases lie between: newer than the installed one, up to the one named.</param>
/// <param name="DaysBehind">How many days lie between the installed release and the one named.</param>
public sealed record DueEntry(
    InstalledApp App, DueState State, ReleaseChoice? Available, ReleaseChoice? Newer, int ReleasesBehind, int DaysBehind)
{
    /// <summary>What it follows; null for the newest of the line that its card is followed on by default.</summary>
    internal VersionSelector? Followed => App.Follows;

    /// <summary>Compares one installed app with what is offered.</summary>
    public static DueEntry Compare(InstalledApp app, IOffers offers, MachineState machine)
    {
        var real = machine.RealVersions.GetValueOrDefault(app.Id);
        if (offers.Find(app.Id).FirstOrDefault(offer => offer.Catalogue == app.Catalogue) is not { } offer)
            return new DueEntry(app, CatalogueStatus.FindState(app.Catalogue, offers), null, null, 0, 0)
            {
                Pin = machine.Pins.Find(app.Id), RealVersion = real,
            };
        return Compare(app, offer, machine, real);
    }

    private static DueEntry Compare(InstalledApp app, Offer offer, MachineState machine, AppVersion? real)
    {
        var here = machine.PlatformOf(app.Id);
        var (asked, pin, version) = (app.Follows, machine.Pins.InForce(app.Id), real ?? app.Version);
        var available = NewerThan(ReleaseChoice.Find([offer], asked, here, pin), version);
        var reached = available?.Release.Version ?? version;
        var pinned = pin is null ? null : NewerThan(ReleaseChoice.Find([offer], asked, here), reached);
        var newer = pinned
            ?? (app.Follows is null ? null : NewerThan(ReleaseChoice.Find([offer], null, here), reached));
        var named = available ?? newer;
        var changed = available is null && real is null ? Republished(app, offer, here) : null;
        var elsewhere = named is null ? NewerElsewhere(offer, asked, here, reached) : null;
        var until = named?.Release.Version ?? elsewhere?.Version;
        var between = until is null
            ? []
            : ReleasesBetween(offer.Card, here, available is null && pinned is null ? null : asked, version, until);
        var installed = offer.Card.Releases.FirstOrDefault(release => release.Version == version);
        var state = available is not null ? app.UpdatesItself ? DueState.UpdatesItself : DueState.Due
            : changed is not null ? DueState.Changed
            : pinned is not null ? DueState.Pinned
            : newer is not null ? DueState.Follows
            : elsewhere is not null ? DueState.OtherPlatform : DueState.Current;
        var last = named?.Release ?? elsewhere;
        var since = real is null ? app.Released : installed?.Date ?? app.Released;
        return new DueEntry(
            app, state, available, newer, between.Count,
            last is null ? 0 : Math.Max(0, last.Date.DayNumber - since.DayNumber))
        {
            Changed = changed, Pin = machine.Pins.Find(app.Id), IsNewerPinned = pinned is not null, RealVersion = real,
            Between = between, Elsewhere = elsewhere, Withdrawn = installed?.Withdrawn, IsVersionOffered = installed is not null,
            Fixes = FixesSince(offer.Card, here, asked, version),
            CardChanges = (named is not null || changed is not null) && machine.InstalledCard(app) is { } card
                ? CardChange.Between(card, offer.Card)
                : [],
        };
    }

    /// <summary>
    /// The security fixes that are newer than the installed version; the newest first. Whoever follows a line gets the fixes of
    /// that line. A version, a range or a pin does not count here: it is what can hold a fix back.
    /// </summary>
    private static List<Release> FixesSince(AppCard card, Platform here, VersionSelector? asked, AppVersion version) =>
        [.. card.ReleasesFor(here, asked as VersionSelector.OfLine)
            .Where(release => release.IsSecurityFix && release.Withdrawn is null && release.Version > version)];

    /// <summary>The releases that lie between the installed one and another, that one included; the newest first.</summary>
    private static List<Release> ReleasesBetween(
        AppCard card, Platform here, VersionSelector? asked, AppVersion from, AppVersion to) =>
        [.. card.ReleasesFor(here, asked).Where(release => release.Version > from && release.Version <= to)];

    /// <summary>A newer release of what it follows that has no file for this machine; null for none.</summary>
    private static Release? NewerElsewhere(Offer offer, VersionSelector? asked, Platform here, AppVersion than)
    {
        var followed = asked ?? new VersionSelector.OfLine(offer.Card.DefaultLineFor(here));
        return offer.Card.Releases.FirstOrDefault(release => release.Version > than && release.Withdrawn is null
            && followed.Accepts(release.Version, release.Line) && release.DeliveryFor(here) is null);
    }

    /// <summary>The version that the app itself tells; null where it is not asked, or agrees with the record.</summary>
    public AppVersion? RealVersion { get; private init; }

    /// <summary>The version that is there.</summary>
    public AppVersion Version => RealVersion ?? App.Version;

    /// <summary>The offered releases that are newer than the installed one, up to the one named; the newest first.</summary>
    public IReadOnlyList<Release> Between { get; private init; } = [];

    /// <summary>Whether one of them is a security fix.</summary>
    public bool IsSecurity => Between.Any(release => release.IsSecurityFix);

    /// <summary>The security fixes that are newer than the installed version, those that it may not have included.</summary>
    internal IReadOnlyList<Release> Fixes { get; private init; } = [];

    /// <summary>The newest security fix that an upgrade does not bring; null for none.</summary>
    public Release? HeldFix => Fixes.FirstOrDefault(fix =>
        State is not (DueState.Due or DueState.UpdatesItself) || fix.Version > Available!.Release.Version);

    /// <summary>What holds <see cref="HeldFix"/> back, in words; empty if there is none.</summary>
    public string HeldFixWhy => HeldFix is not { } fix ? ""
        : State == DueState.HeldBack ? HeldWords
        : IsNewerPinned && Pin is { } pin ? pin.Words
        : App.Follows is { } follows ? $"follows @{follows}"
        : "held back";

    /// <summary>A newer release that has no file for this machine; null for none.</summary>
    public Release? Elsewhere { get; private init; }

    /// <summary>Why its catalogue has withdrawn the installed release; null where it has not.</summary>
    public string? Withdrawn { get; private init; }

    /// <summary>Whether its catalogue still lists the installed release.</summary>
    public bool IsVersionOffered { get; private init; } = true;

    /// <summary>The installed version as its catalogue has it by now; null unless that is another file.</summary>
    public ReleaseChoice? Changed { get; private init; }

    /// <summary>
    /// What the card states differently since the app was installed. Empty if nothing newer is offered: only then the cards are
    /// compared.
    /// </summary>
    public IReadOnlyList<CardChange> CardChanges { get; private init; } = [];

    /// <summary>Its pin, lapsed or not; null for none.</summary>
    public Pin? Pin { get; private init; }

    /// <summary>Whether the newer release belongs to what it follows, and the pin holds it.</summary>
    public bool IsNewerPinned { get; private init; }

    /// <summary>
    /// Whether nothing can be said of it, since its catalogue is paused, gone, not fetched, or has withdrawn the app.
    /// </summary>
    public bool IsUnknown =>
        State is DueState.Paused or DueState.NotOffered or DueState.NotFetched or DueState.Dropped;

    /// <summary>
    /// The installed apps that hold it back; empty where it is not held back, or by a release that is newer itself.
    /// </summary>
    public IReadOnlyList<AppId> HeldBy { get; init; } = [];

    /// <summary>Why it is held back, as the plan of an upgrade says it; may be empty.</summary>
    public string HeldWhy { get; init; } = "";

    /// <summary>That it is held back, and by what, in words.</summary>
    public string HeldWords =>
        HeldBy.Count > 0 ? $"held back by {string.Join(", ", HeldBy)}"
        : HeldWhy.Length > 0 ? $"held back: {HeldWhy}" : "held back: it does not fit with other apps";

    /// <summary>Compares every installed app with what is offered, ordered by id.</summary>
    public static IReadOnlyList<DueEntry> All(MachineState machine, IOffers offers)
    {
        var glance = offers.Glance([.. machine.Apps.Where(app => IsPlain(app, machine)).Select(app => (app.Id, app.Catalogue))]);
        var current = machine.Apps.Where(app => glance.TryGetValue(app.Id, out var kept) && NewestReleases.IsNewest(
            kept, machine.Platform, app.Version, app.IsDigestStated ? null : app.Sha256)).Select(app => app.Id).ToHashSet();
        offers.Expect(machine.Apps.Select(app => app.Id).Where(id => !current.Contains(id)), everyRelease: false);
        return [.. machine.Apps.Select(app => current.Contains(app.Id)
            ? new DueEntry(app, DueState.Current, null, null, 0, 0)
            : Compare(app, offers, machine))];
    }

    /// <summary>Whether nothing but its version decides how an app stands.</summary>
    private static bool IsPlain(InstalledApp app, MachineState machine) =>
        app is { Follows: null, Platform: null, UpdatesItself: false } && app.Line == ReleaseLine.Stable
        && machine.Pins.Find(app.Id) is null && !machine.RealVersions.ContainsKey(app.Id);

    /// <summary>
    /// What a catalogue has for the installed version, where that is another file. Where a user has stated the digest of the
    /// installed one, that was their choice.
    /// </summary>
    private static ReleaseChoice? Republished(InstalledApp app, Offer offer, Platform here)
    {
        if (app.IsDigestStated) return null;
        var release = offer.Card.Releases.FirstOrDefault(release => release.Version == app.Version);
        return release?.DeliveryFor(here) is { } delivery && delivery.Sha256 != app.Sha256
            && delivery.Platform.Architecture == app.Architecture
            ? new ReleaseChoice(offer, release, delivery)
            : null;
    }

    private static ReleaseChoice? NewerThan(ReleaseChoice? choice, AppVersion than) =>
        choice is not null && choice.Release.Version > than ? choice : null;
}
