using AmberCrate.Core.Cards;
using AmberCrate.Core.Machine;
using AmberCrate.Core.Offers;
using AmberCrate.Core.Plans;
using AmberCrate.Core.Problems;

namespace AmberCrate.Core.Runs;

/// <summary>
/// Plans the way back to the state before a run: each app that the run has changed, from the shelf where its old version
/// is still there, otherwise from its catalogue.
/// </summary>
/// <param name="machine">The machine as it is now.</param>
/// <param name="offers">What is offered.</param>
/// <param name="isOnShelf">Whether a version is complete on the shelf.</param>
public sealed class RunUndo(MachineState machine, IOffers offers, Func<InstalledApp, bool> isOnShelf)
{
    /// <summary>Plans it.</summary>
    /// <param name="run">The number of the run, for messages.</param>
    /// <param name="items">Its items.</param>
    /// <param name="begun">When the run began.</param>
    /// <exception cref="ProblemException">What would be left does not go together.</exception>
    public Plan Plan(long run, IReadOnlyList<RecordedItem> items, DateTimeOffset begun)
    {
        offers.Expect(items.Select(item => item.Before?.Id).OfType<Values.AppId>(), everyRelease: true);

        // What was put on last may need what was put on before it.
        var plan = new Plan([.. items.Reverse().Where(WasChanged).Select(Back).OfType<PlanItem>()]);
        RequireSound(run, plan, begun);
        return plan;
    }

    /// <summary>Whether the run has changed the app. Where it was cut off, the current state decides.</summary>
    private bool WasChanged(RecordedItem item) => item.HasChanged
        || (item.Outcome is null && Find(item) is var now && now?.ShelfName != item.Before?.ShelfName && now?.Version == item.To);

    private PlanItem? Back(RecordedItem item)
    {
        var now = Find(item);
        if (item.Before is not { } before)
            return now is null ? null : new PlanItem
            {
                Id = now.Id.Text, Action = PlanAction.Remove, Installed = now, Notes = ChangedSince(item, now),
            };
        if (now is not null && now.ShelfName == before.ShelfName && now.Sha256 == before.Sha256)
            return SaysTheSame(now, before) ? null : new PlanItem
            {
                Id = now.Id.Text, Action = PlanAction.Remember, Installed = now, Follows = before.Follows,
                IsDependency = before.IsDependency, Notes = [PlanNote.FollowsFromNow(now.Follows, before.Follows)],
            };
        if (now is not null && now.Catalogue != before.Catalogue)
            return new PlanItem
            {
                Id = before.Id.Text, Action = PlanAction.Cannot, Installed = now,
                Notes = [PlanNote.Refused(CatalogueChange.Refusal(now, before.Catalogue))],
            };
        if (LastSeen(before) is { Release: { Withdrawn: not null } release, Offer: var offer })
            return new PlanItem
            {
                Id = before.Id.Text, Action = PlanAction.Cannot, Installed = now,
                Notes = [PlanNote.Refused(ReleaseChoice.Withdrawn(offer, release))],
            };
        if (isOnShelf(before))
            return new PlanItem
            {
                Id = before.Id.Text, Action = ActionTo(now, before), Installed = now, Restores = before, Follows = before.Follows,
                IsDependency = before.IsDependency, InstallerArguments = before.InstallerArguments,
                Notes = [PlanNote.FromShelf(), .. ChangedSince(item, now)],
            };
        return (Fetched(now, before) ?? PlanItem.PuttingBack(now, before, machine)) is { } again
            ? again with { Notes = [.. again.Notes, .. ChangedSince(item, now)] }
            : new PlanItem
            {
                Id = before.Id.Text, Action = PlanAction.Cannot, Installed = now,
                Notes = [PlanNote.NotToBeHad(before, offers)],
            };
    }

    /// <summary>The old version as its catalogue had it last; null if it was not there.</summary>
    private (Offer Offer, Release Release)? LastSeen(InstalledApp before) =>
        offers.LastSeen(before.Id, before.Catalogue) is { } offer
            && offer.Card.Releases.FirstOrDefault(release => release.Version == before.Version) is { } release
            ? (offer, release)
            : null;

    /// <summary>The old version as its catalogue has it now; null if it does not offer that version any more.</summary>
    private (Offer Offer, Release Release)? Offered(InstalledApp before)
    {
        foreach (var offer in offers.Find(before.Id).Where(offer => offer.Catalogue == before.Catalogue))
        {
            if (offer.Card.Releases.FirstOrDefault(release => release.Version == before.Version) is { } release)
                return (offer, release);
        }

        return null;
    }

    /// <summary>The item that downloads the old version; null where it is not offered, or with another file.</summary>
    private PlanItem? Fetched(InstalledApp? now, InstalledApp before)
    {
        if (Offered(before) is not var (offer, release)
            || release.DeliveryFor(before.Platform ?? machine.Platform, before.Sha256) is not { } delivery) return null;
        return PlanItem.Changing(now, new ReleaseChoice(offer, release, delivery), before.Follows) with
        {
            InstallerArguments = before.InstallerArguments,
            IsDependency = before.IsDependency,
            Platform = before.Platform,
        };
    }

    private static PlanAction ActionTo(InstalledApp? now, InstalledApp before) =>
        now is null ? PlanAction.Install
        : now.Version == before.Version ? PlanAction.Replace
        : before.Version > now.Version ? PlanAction.Upgrade : PlanAction.Downgrade;

    private static bool SaysTheSame(InstalledApp now, InstalledApp before) =>
        now.Follows == before.Follows && now.IsDependency == before.IsDependency;

    private static IReadOnlyList<PlanNote> ChangedSince(RecordedItem item, InstalledApp? now) =>
        item.Outcome is null || now?.ShelfName == item.After?.ShelfName ? [] : [PlanNote.ChangedSince(now)];

    /// <exception cref="ProblemException">An app would lack what it needs, be beside what it excludes, or leave its
    /// pin.</exception>
    private void RequireSound(long run, Plan plan, DateTimeOffset begun)
    {
        var after = StateAfter(plan);
        List<Advice> faults = [];
        var putOn = plan.Items.Where(item => item.PutsOn).Select(item => item.Id).ToHashSet(StringComparer.Ordinal);
        foreach (var (id, state) in after)
        {
            foreach (var need in state.Needs.Where(
                need => (putOn.Contains(id) || Meets(machine.Find(need.Id), need)) && !Meets(after, need)))
                faults.Add(Advice.Combine($"{id} {state.Version} needs {need}"));

            // Apps that exclude each other and are both installed may stay. An app that is put on must fit.
            foreach (var other in state.Conflicts.Where(
                other => (putOn.Contains(id) || !Meets(machine.Find(other.Id), other)) && Meets(after, other)))
                faults.Add(Advice.Combine($"{id} {state.Version} cannot be there beside {other}"));
        }

        foreach (var item in plan.Items.Where(item => item.PutsOn))
        {
            var (version, line) = (item.To!, (item.Restores?.Line ?? item.Release?.Line)!);
            // A pin that was there before the run has let the app be as it was.
            if (machine.Pins.InForce(item.App!) is { } pin && pin.Since > begun
                && !pin.Selector.Accepts(version, line))
                faults.Add(Advice.Combine($"{item.Id} is {pin.Words}, and would be {version}"));
        }

        if (faults.Count == 0) return;
        throw new Problem(
            ProblemCode.Refused, $"run {run} cannot be undone",
                "what would be left does not go together; nothing has been changed",
            "undo the later runs first, or change these apps by hand")
        { Details = faults }.ToException();
    }

    private Dictionary<string, After> StateAfter(Plan plan)
    {
        var after = machine.Apps.ToDictionary(
            app => app.Id.Text, app => new After(app.Version, app.Line, app.Needs, app.Conflicts), StringComparer.Ordinal);
        foreach (var item in plan.Items)
        {
            if (item.Action == PlanAction.Remove) after.Remove(item.Id);
            else if (item.Restores is { } app) after[item.Id] = new After(app.Version, app.Line, app.Needs, app.Conflicts);
            else if (item is { Fetches: true, Offer.Card: var card, Release: { } release })
                after[item.Id] =
                    new After(release.Version, release.Line, card.NeedsOf(release), card.ConflictsOf(release));
        }

        return after;
    }

    private static bool Meets(InstalledApp? app, RelatedApp need) => app is not null && need.Accepts(app.Version, app.Line);

    private static bool Meets(Dictionary<string, After> after, RelatedApp need) =>
        after.TryGetValue(need.Id.Text, out var there) && need.Accepts(there.Version, there.Line);

    private InstalledApp? Find(RecordedItem item) => item.Reference.Id is { } id ? machine.Find(id) : null;

    private sealed record After(
        Versions.AppVersion Version, Versions.ReleaseLine Line, IReadOnlyList<RelatedApp> Needs,
        IReadOnlyList<RelatedApp> Conflicts);
}
