using AmberCrate.Core.Cards;
using AmberCrate.Core.Due;
using AmberCrate.Core.Machine;
using AmberCrate.Core.Offers;
using AmberCrate.Core.Pins;
using AmberCrate.Core.Problems;
using AmberCrate.Core.Requirements;
using AmberCrate.Core.Values;
using AmberCrate.Core.Versions;

namespace AmberCrate.Core.Plans;

/// <summary>
/// Why a plan does with an app what it does, or what else a user should know: a stable code with its values, and the words for
/// it.
/// </summary>
/// <param name="Code">The stable code, as JSON has it.</param>
/// <param name="Values">What the code is about, by name.</param>
/// <param name="Text">The same in words.</param>
public sealed record PlanNote(string Code, IReadOnlyList<(string Name, string Value)> Values, Advice Text)
{
    /// <summary>The problem that it is about; null where it is about none.</summary>
    public ProblemCode? Problem { get; private init; }

    /// <summary>Why it is not what would have been preferred; null where that is not said.</summary>
    public string? Why => Values.FirstOrDefault(value => value.Name == "why").Value;

    /// <summary>A newer version is available by an upgrade.</summary>
    internal static PlanNote NewerIsAvailable(AppId id, AppVersion version) =>
        Create("newer-is-available", [Version(version)], $"{version} is available: {NextCommand.Create("upgrade", id.Text)}");

    /// <summary>Its catalogue has another file by now for the installed version.</summary>
    internal static PlanNote ChangedByCatalogue(AppId id) => Create(
        "changed", [],
        $"changed by the catalogue since it was installed: {NextCommand.Create("upgrade", id.Text)} takes the new file");

    /// <summary>A newer version is there, and the app follows something that it does not belong to.</summary>
    internal static PlanNote FollowsOther(AppVersion newer, VersionSelector? follows) =>
        Create("follows-other", [Version(newer), Selector(follows)], $"follows @{follows}; {newer} is newer");

    /// <summary>A newer version of what it follows is there, and a pin holds it.</summary>
    internal static PlanNote IsPinned(Pin pin, AppVersion newer) => Create(
        "pinned", [Version(newer), Selector(pin.Selector), ("reason", pin.Reason ?? "")], $"{pin.Words}; {newer} is newer");

    /// <summary>A newer version than the planned one is there; what the app follows is said beside it.</summary>
    internal static PlanNote IsNewer(AppVersion version) => Create("is-newer", [Version(version)], $"{version} is newer");

    /// <summary>A version would be newer, and does not fit with other apps; the reason follows.</summary>
    internal static PlanNote WouldBeNewer(AppVersion version) =>
        Create("would-be-newer", [Version(version)], $"{version} is newer, but does not fit");

    /// <summary>From now on the app follows something else.</summary>
    internal static PlanNote FollowsFromNow(VersionSelector? before, VersionSelector? now) =>
        Create("follows-from-now", [Selector(now)], now is null ? $"no longer follows @{before}" : $"now follows @{now}");

    /// <summary>Its catalogue offers nothing of it.</summary>
    internal static PlanNote NotOffered(CatalogueName catalogue, IOffers offers) => Create(
        "not-offered",
        [("catalogue", catalogue.Text), ("state", DueWords.States.WordOf(CatalogueStatus.FindState(catalogue, offers)))],
        CatalogueStatus.Words(catalogue, offers));

    /// <summary>It is not available, for a reason that would end another command.</summary>
    internal static PlanNote Refused(Problem problem) => Create(
        "refused", [("problem", ProblemWords.Codes.WordOf(problem.Code))],
        problem.Why.Length == 0 ? problem.What : $"{problem.What} ({problem.Why})") with
    { Problem = problem.Code };

    /// <summary>The system lacks what it requires.</summary>
    public static PlanNote SystemLacks(IReadOnlyList<SystemLack> lacks) => Create(
        "system-lacks", [("lacks", string.Join(", ", lacks.Select(lack => lack.Requirement.Words)))],
        $"needs {SystemLack.Name(lacks)}, which this system lacks") with
    { Problem = ProblemCode.SystemLacks };

    /// <summary>It is not what would have been preferred.</summary>
    /// <param name="before">What was said of it before.</param>
    /// <param name="preferred">The version that would have been preferred; null where there is none to name.</param>
    /// <param name="why">Why not.</param>
    internal static PlanNote NotPreferred(Advice before, AppVersion? preferred, string why) => Create(
        "not-preferred",
        preferred is null ? [("why", why)] : [Version(preferred), ("why", why)],
        !before.IsEmpty ? Advice.Combine($"{before}: {why}") : preferred is not null ? $"not {preferred}: {why}" : why);

    /// <summary>It changes although it was not requested and nothing needs it.</summary>
    internal static PlanNote MakesRoom() => Create("makes-room", [], "changes so that the other apps fit");

    /// <summary>Its old version is still on the shelf, so that nothing is downloaded.</summary>
    internal static PlanNote FromShelf() => Create("from-shelf", [], "still on this machine");

    /// <summary>Its file is still in the cache, so that its catalogue is not needed.</summary>
    internal static PlanNote FromCache() => Create("from-cache", [], "from the file that is still on this machine");

    /// <summary>It has been changed again since the run that is undone.</summary>
    internal static PlanNote ChangedSince(InstalledApp? now) => Create(
        "changed-since", now is null ? [] : [Version(now.Version)],
        now is null ? "uninstalled since that run" : "changed again since that run");

    /// <summary>A version that is neither on this machine nor offered as it was.</summary>
    internal static PlanNote NotToBeHad(InstalledApp before, IOffers offers)
    {
        var state = CatalogueStatus.FindState(before.Catalogue, offers);
        return Create(
            "not-offered",
            [Version(before.Version), ("catalogue", before.Catalogue.Text), ("state", DueWords.States.WordOf(state))],
            state == DueState.NotOffered
                ? $"{before.Version} is neither on this machine nor offered by {before.Catalogue} with the same file"
                : $"{before.Version} is not on this machine any more, and {CatalogueStatus.Words(before.Catalogue, offers)}");
    }

    /// <summary>It is damaged on the disk.</summary>
    internal static PlanNote Damaged(AppDamage damage) => Create("damaged", [], damage.Words);

    /// <summary>Its catalogue has withdrawn the release.</summary>
    internal static PlanNote WithdrawnBy(Offer offer, Release release) => Create(
        "withdrawn", [Version(release.Version), ("catalogue", offer.Catalogue.Text), ("reason", release.Withdrawn!)],
        $"{offer.Catalogue} has withdrawn {release.Version}: {release.Withdrawn}");

    /// <summary>It brings itself up to date, and was not named.</summary>
    internal static PlanNote UpdatesItself(AppVersion newer) =>
        Create("self-updating", [Version(newer)], $"updates itself; {newer} is newer, and is taken where the app is named");

    /// <summary>A newer version has no file for this machine.</summary>
    internal static PlanNote OtherPlatform(AppVersion newer) =>
        Create("other-platform", [Version(newer)], $"{newer} is newer, but not offered for this machine");

    /// <summary>What it keeps in a user's home stays.</summary>
    public static PlanNote SettingsStay(IReadOnlyList<string> paths) =>
        Create("settings-stay", [("paths", string.Join(", ", paths))], $"its settings stay: {string.Join(", ", paths)}");

    /// <summary>What it keeps in a user's home is deleted too.</summary>
    public static PlanNote SettingsGo(IReadOnlyList<string> paths) =>
        Create("settings-go", [("paths", string.Join(", ", paths))], $"deletes its settings: {string.Join(", ", paths)}");

    /// <summary>The code of the note that no app needs it any more.</summary>
    internal const string NotNeededCode = "not-needed";

    /// <summary>No app needs it any more.</summary>
    internal static PlanNote NoLongerNeeded() => Create(NotNeededCode, [], "no app needs it any more");

    /// <summary>It goes because what it needs goes.</summary>
    internal static PlanNote NeedsRemoved(IEnumerable<string> needs) =>
        Create("needs-removed", [("needs", string.Join(", ", needs))], $"needs {string.Join(", ", needs)}");

    /// <summary>What others have put there of it stays, and how they remove it.</summary>
    public static PlanNote Remains(ObservedApp other) => Create(
        "remains", [("what", other.Words), ("removal", other.Removal ?? "")],
        other.IsProtected ? $"{other.Words} stays; the system needs it"
        : other.Removal is { } how ? $"{other.Words} stays; its owner removes it by: {how}" : $"{other.Words} stays");

    /// <summary>Others have put it there too.</summary>
    public static PlanNote AlsoHere(ObservedApp other) =>
        Create("also-here", [("what", other.Words)], $"also here as {other.Words}");

    /// <summary>It is installed without a signature.</summary>
    public static PlanNote NotSignedBy(CatalogueName catalogue) =>
        Create("unsigned", [("catalogue", catalogue.Text)], $"not signed by {catalogue}");

    /// <summary>Its card states something differently since it was installed.</summary>
    internal static PlanNote CardChanged(CardChange change) => Create(
        "card-changed",
        [("what", CardChange.Kinds.WordOf(change.Kind)), ("before", change.Before), ("after", change.After)], change.Words);

    /// <summary>From now on it counts as asked for.</summary>
    internal static PlanNote ChosenFromNow() =>
        Create("chosen-from-now", [], "was installed for another app; now kept for itself");

    /// <summary>It is not started once to see whether it works.</summary>
    public static PlanNote NotTried() =>
        Create("not-tried", [], "not started once to see whether it works, since it cannot be confined here");

    private static PlanNote Create(string code, IReadOnlyList<(string Name, string Value)> values, Advice text) =>
        new(code, values, text);

    private static (string Name, string Value) Version(AppVersion version) => ("version", version.Text);

    private static (string Name, string Value) Selector(VersionSelector? selector) => ("selector", selector?.ToString() ?? "");
}
