using AmberCrate.Core.Machine;

namespace AmberCrate.Core.Plans;

/// <summary>
/// The apps that are there once a plan is carried out, as far as their relations go. What it uninstalls is still among them.
/// </summary>
internal static class AfterPlan
{
    /// <summary>The apps with what they will need and exclude, and whether the user asked for them.</summary>
    /// <param name="machine">The machine.</param>
    /// <param name="plan">The plan.</param>
    public static IReadOnlyList<InstalledApp> Apps(MachineState machine, Plan plan)
    {
        var items = plan.Items.Where(item => item.Changes).ToDictionary(item => item.Id, StringComparer.Ordinal);
        var there = machine.Apps.Select(app => app.Id.Text).ToHashSet(StringComparer.Ordinal);
        return
        [
            .. machine.Apps.Select(app => items.GetValueOrDefault(app.Id.Text) is not { } item ? app : Changed(item)
                ?? (item.Action == PlanAction.Remember ? app with { IsDependency = item.IsDependency } : app)),
            .. items.Values.Where(item => !there.Contains(item.Id)).Select(Changed).OfType<InstalledApp>(),
        ];
    }

    private static InstalledApp? Changed(PlanItem item)
    {
        if (item.Restores is { } restored) return restored;
        if (item is not { Fetches: true, Offer: { Card: var card } offer, Release: { } release }) return null;
        return new InstalledApp
        {
            Id = card.Id, Name = card.Name, Kind = card.Kind, Version = release.Version,
            Architecture = item.Delivery!.Platform.Architecture, Line = release.Line, Released = release.Date,
            Catalogue = offer.Catalogue, InstalledAt = default, Source = "", Sha256 = item.DeliveryDigest!,
            Needs = card.NeedsOf(release), Conflicts = card.ConflictsOf(release), IsDependency = item.IsDependency,
            IsProtected = card.IsProtected,
        };
    }
}
