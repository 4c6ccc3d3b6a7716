using AmberCrate.Core.Due;
using AmberCrate.Core.Offers;
using AmberCrate.Core.Plans;
using AmberCrate.Core.Problems;
using AmberCrate.Core.Solving;

namespace AmberCrate.Core.Planning;

/// <content>Brings apps up to date.</content>
public sealed partial class Planner
{
    /// <summary>
    /// Plans to bring apps up to date within the request, each as far as the others can follow. A file that a catalogue
    /// has exchanged under the same version is taken only where the app is named.
    /// </summary>
    /// <param name="names">The installed apps to bring up to date; empty for all that are due.</param>
    /// <param name="isSecurityOnly">Whether only apps are upgraded that have a security fix due.</param>
    /// <exception cref="ProblemException">A name fits no installed app, or several.</exception>
    public Plan Upgrade(IReadOnlyCollection<string> names, bool isSecurityOnly = false) => Planned((names.Count > 0
        ? Installed(names).Select(app => (Entry: DueEntry.Compare(app, offers, machine), IsNamed: true))
        : DueEntry.All(machine, offers)
            .Where(entry => entry.State is not DueState.Current && !entry.IsUnknown)
            .Select(entry => (Entry: entry, IsNamed: false)))
        .Where(one => !isSecurityOnly || one.Entry is { IsSecurity: true, Available: not null })
        .Select(one => UpgradeOne(one.Entry, one.IsNamed)));

    private (PlanItem? Item, Goal? Goal) UpgradeOne(DueEntry entry, bool isNamed)
    {
        var app = entry.App;
        var rest = new PlanItem { Id = app.Id.Text, Action = PlanAction.Keep, Installed = app, Follows = app.Follows };
        return entry.State switch
        {
            DueState.Due => (null, UpgradeGoal(entry, rest)),
            DueState.Changed when isNamed => (null, ReplaceGoal(entry, rest)),
            DueState.Changed => (rest with { Notes = [PlanNote.ChangedByCatalogue(app.Id)] }, null),
            DueState.Pinned =>
                (rest with { IsPinned = true, Notes = [PlanNote.IsPinned(entry.Pin!, entry.Newer!.Release.Version)] }, null),
            DueState.Follows =>
                (rest with { Notes = [PlanNote.FollowsOther(entry.Newer!.Release.Version, app.Follows)] }, null),
            DueState.Current => (rest, null),
            DueState.UpdatesItself when isNamed => (null, UpgradeGoal(entry, rest)),
            DueState.UpdatesItself =>
                (rest with { Notes = [PlanNote.UpdatesItself(entry.Available!.Release.Version)] }, null),
            DueState.OtherPlatform => (rest with { Notes = [PlanNote.OtherPlatform(entry.Elsewhere!.Version)] }, null),
            DueState.HeldBack or DueState.Paused or DueState.NotOffered or DueState.NotFetched or DueState.Dropped =>
                (rest with { Action = PlanAction.Cannot, Notes = [PlanNote.NotOffered(app.Catalogue, offers)] }, null),
        };
    }

    private Goal UpgradeGoal(DueEntry entry, PlanItem rest)
    {
        var (app, newest) = (entry.App, entry.Available!);
        return new Goal(app.Id, new Candidate(
            newest, null), new Lazy<GoalStates>(States), IsFirm: false, null, chosen => chosen.Choice is not { } choice
            ? rest with { Notes = [PlanNote.WouldBeNewer(newest.Release.Version)] }
            : PlanItem.Changing(app, choice, app.Follows) with { Notes = Newer(choice) });

        IReadOnlyList<PlanNote> Newer(ReleaseChoice choice) =>
            choice.Release.Version != newest.Release.Version ? [PlanNote.WouldBeNewer(newest.Release.Version)]
            : entry.Newer is { } newer ? [entry.IsNewerPinned
                ? PlanNote.IsPinned(entry.Pin!, newer.Release.Version)
                : PlanNote.IsNewer(newer.Release.Version)]
            : [];

        GoalStates States()
        {
            List<Candidate> candidates = [.. Wanted([newest.Offer], entry.Followed)
                .Where(choice => choice.Release.Version > entry.Version)
                .Select(choice => new Candidate(choice, null)), new Candidate(null, app)];
            return new GoalStates(candidates, ValueSet.Below(candidates.Count));
        }
    }

    /// <summary>The request for the file that a catalogue has by now for the installed version.</summary>
    private static Goal ReplaceGoal(DueEntry entry, PlanItem rest)
    {
        var replaced = new Candidate(entry.Changed!, null);
        return new Goal(
            entry.App.Id, replaced, new Lazy<GoalStates>(States), IsFirm: false, null,
            chosen => chosen.Choice is { } choice ? PlanItem.Changing(entry.App, choice, entry.App.Follows) : rest);

        GoalStates States() => new([replaced, new Candidate(null, entry.App)], ValueSet.Below(2));
    }
}
