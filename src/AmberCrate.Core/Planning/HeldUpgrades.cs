using AmberCrate.Core.Due;
using AmberCrate.Core.Machine;
using AmberCrate.Core.Offers;
using AmberCrate.Core.Plans;

namespace AmberCrate.Core.Planning;

/// <summary>
/// Finds which of the due apps an upgrade would leave alone because of other apps. What is called due is what an upgrade does.
/// </summary>
public static class HeldUpgrades
{
    /// <summary>Compares all installed apps with what is offered, and marks those that others hold back.</summary>
    public static IReadOnlyList<DueEntry> MarkAll(MachineState machine, IOffers offers) =>
        Mark(DueEntry.All(machine, offers), [], machine, offers);

    /// <summary>Finds the installed apps with a security fix that an upgrade does not bring.</summary>
    public static IReadOnlyList<DueEntry> FindHeldFixes(MachineState machine, IOffers offers)
    {
        var all = DueEntry.All(machine, offers);
        return all.Any(entry => entry.Fixes.Count > 0)
            ? [.. Mark(all, [], machine, offers).Where(entry => entry.HeldFix is not null)]
            : [];
    }

    /// <summary>Compares one installed app with what is offered, and marks it if others hold it back.</summary>
    public static DueEntry MarkOne(InstalledApp app, IOffers offers, MachineState machine) =>
        Mark([DueEntry.Compare(app, offers, machine)], [app.Id.Text], machine, offers)[0];

    private static IReadOnlyList<DueEntry> Mark(
        IReadOnlyList<DueEntry> entries, IReadOnlyList<string> upgraded, MachineState machine, IOffers offers)
    {
        if (!entries.Any(entry => entry.State == DueState.Due && MayBeHeld(entry, machine))) return entries;
        var kept = new Planner(machine, offers).Upgrade(upgraded).Items.Where(item => item.Action == PlanAction.Keep)
            .ToDictionary(item => item.Id, StringComparer.Ordinal);
        return
        [
            .. entries.Select(entry => entry.State == DueState.Due && kept.TryGetValue(entry.App.Id.Text, out var item)
                ? entry with
                {
                    State = DueState.HeldBack, HeldBy = [.. FindBlockers(entry, machine).Select(app => app.Id)],
                    HeldWhy = item.Notes.Select(note => note.Why).FirstOrDefault(why => why is not null) ?? "",
                }
                : entry),
        ];
    }

    /// <summary>Whether only a plan can say if an upgrade takes the app: it has needs or conflicts.</summary>
    private static bool MayBeHeld(DueEntry entry, MachineState machine) => FindBlockers(entry, machine).Any()
        || entry.Available is { } newer
            && (newer.Offer.Card.NeedsOf(newer.Release).Count > 0 || newer.Offer.Card.ConflictsOf(newer.Release).Count > 0);

    /// <summary>Finds the installed apps that exclude the available release.</summary>
    private static IEnumerable<InstalledApp> FindBlockers(DueEntry entry, MachineState machine) =>
        entry.Available is not { Release: var release } ? []
        : machine.Apps.Where(other => other.Id != entry.App.Id
            && (other.Needs.Any(need => need.Id == entry.App.Id && !need.Accepts(release.Version, release.Line))
                || other.Conflicts.Any(
                    conflict => conflict.Id == entry.App.Id && conflict.Accepts(release.Version, release.Line))));
}
