using AmberCrate.Core.Due;
using AmberCrate.Core.Machine;
using AmberCrate.Core.Offers;
using AmberCrate.Core.Plans;
using AmberCrate.Core.Versions;

namespace AmberCrate.Core.Planning;

/// <content>Keeps apps as they are, and repairs them.</content>
public sealed partial class Planner
{
    /// <summary>Whether installed apps that are named are put on again, also if they are whole.</summary>
    public bool PutsOnAgain { get; init; }

    /// <summary>Plans putting damaged apps right.</summary>
    /// <param name="damaged">The apps, and the faults of each.</param>
    public Plan Repair(IEnumerable<(InstalledApp App, AppDamage Damage)> damaged) => new([.. damaged.Select(one =>
        Repaired(one.App, one.App.Follows, one.App.IsDependency, one.Damage))]);

    /// <summary>The item that puts an app on again: from the shelf where that is whole, otherwise from its catalogue.</summary>
    private PlanItem Repaired(InstalledApp app, VersionSelector? asked, bool isDependency, AppDamage? damage)
    {
        var same = (from offer in CatalogueChange.Allowed(app, offers.Find(app.Id))
                    from release in offer.Card.Releases
                    where release.Version == app.Version
                    select (offer, release)).ToList();
        var item = new PlanItem
        {
            Id = app.Id.Text, Action = PlanAction.Repair, Installed = app, Follows = asked,
            IsDependency = isDependency, InstallerArguments = app.InstallerArguments, Platform = app.Platform,
            Notes =
            [
                .. damage is null ? Array.Empty<PlanNote>() : [PlanNote.Damaged(damage)],
                .. same.Where(one => one.release.Withdrawn is not null)
                    .Select(one => PlanNote.WithdrawnBy(one.offer, one.release)),
            ],
        };
        var restored = item with { Restores = app with { Follows = asked, IsDependency = isDependency } };
        if (damage?.IsShelfWhole == true) return restored;
        foreach (var (offer, release) in same)
        {
            if (release.DeliveryToRepair(machine.PlatformOf(app.Id), app.IsDigestStated ? null : app.Sha256) is { } delivery
                && (!app.IsDigestStated || delivery.Files.Count == 1))
                return item with
                {
                    Offer = offer,
                    Release = release,
                    Delivery = delivery,
                    StatedSha256 = app.IsDigestStated ? app.Sha256 : null,
                };
        }

        if (damage is null) return restored;
        return PlanItem.PuttingBack(app, app, machine) is { } again
            ? again with
            {
                Action = PlanAction.Repair,
                Follows = asked,
                IsDependency = isDependency,
                Notes = [.. item.Notes, .. again.Notes],
            }
            : item with { Action = PlanAction.Cannot, Notes = [.. item.Notes, PlanNote.NotToBeHad(app, offers)] };
    }

    private PlanItem Kept(
        InstalledApp installed, VersionSelector? asked, IReadOnlyList<Offer> found, bool isDependency = false)
    {
        if (machine.Damage(installed) is var damage && (damage is not null || PutsOnAgain))
            return Repaired(installed, asked, isDependency, damage);
        var item = new PlanItem
        {
            Id = installed.Id.Text,
            Action = asked == installed.Follows && installed.IsDependency == isDependency ? PlanAction.Keep
                : PlanAction.Remember,
            Installed = installed, Follows = asked, IsDependency = isDependency,
        };
        var due = found.Count == 0 ? null : DueEntry.Compare(installed with { Follows = asked }, offers, machine);
        var hint = due is null ? PlanNote.NotOffered(installed.Catalogue, offers) : due.State switch
        {
            DueState.Due => PlanNote.NewerIsAvailable(installed.Id, due.Available!.Release.Version),
            DueState.Changed => PlanNote.ChangedByCatalogue(installed.Id),
            DueState.Pinned => PlanNote.IsPinned(due.Pin!, due.Newer!.Release.Version),
            DueState.Follows when item.Action == PlanAction.Keep => PlanNote.FollowsOther(due.Newer!.Release.Version, asked),
            DueState.Follows => PlanNote.IsNewer(due.Newer!.Release.Version),
            DueState.Current or DueState.HeldBack or DueState.UpdatesItself or DueState.OtherPlatform or DueState.Paused
                or DueState.NotOffered or DueState.NotFetched or DueState.Dropped =>
                    null,
        };
        var follows = asked == installed.Follows ? null : PlanNote.FollowsFromNow(installed.Follows, asked);
        var chosen = installed.IsDependency && !isDependency ? PlanNote.ChosenFromNow() : null;
        return item with { Notes = [.. new[] { follows, chosen, hint }.OfType<PlanNote>()] };
    }
}
