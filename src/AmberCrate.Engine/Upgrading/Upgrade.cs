using AmberCrate.Core.Due;
using AmberCrate.Core.Machine;
using AmberCrate.Core.Offers;
using AmberCrate.Core.Planning;
using AmberCrate.Core.Plans;
using AmberCrate.Core.Problems;
using AmberCrate.Core.Values;
using AmberCrate.Engine.Host;
using AmberCrate.Engine.Runs;
using AmberCrate.Engine.Sessions;

namespace AmberCrate.Engine.Upgrading;

/// <summary>Brings installed apps up to date, within what was requested.</summary>
/// <param name="session">The session.</param>
public sealed class Upgrade(Session session)
{
    /// <summary>Plans, shows the plan, asks, and carries it out if the user agrees.</summary>
    /// <param name="names">The installed apps; none for all that are due.</param>
    /// <param name="request">Which of them, and further options.</param>
    /// <param name="options">What else was requested.</param>
    /// <param name="signals">Stops the run.</param>
    /// <exception cref="ProblemException">It is refused; nothing has been changed.</exception>
    public async Task<RunResult> RunAsync(
        IReadOnlyList<string> names, UpgradeRequest request, RunOptions options, RunSignals signals)
    {
        using var station = await new RootOpener(session).ToChangeFreshAsync(options, signals.Soon);
        var machine = station.Apps.ReadWithRealVersions(signals.Soon);
        if (names.Count == 0) NoteLeft(machine, station.Catalogues.Offers());
        NoteHeldFixes(names, machine, station.Catalogues.Offers());
        var plan = new Planner(machine, station.Catalogues.Offers()).Upgrade(names, request.IsSecurityOnly)
            .WithAcceptedDigests(options.StatedDigests)
            .WithInstallerArguments(options.InstallerArguments);
        plan = WithUnneeded(plan, machine, station.Catalogues.Offers(), request.RemovesUnneeded);
        var result = await new PlanExecution(session, station, options).ExecuteAsync(plan, signals);
        return result is { End: RunEnd.Ran, Report.Number: not null }
            ? result with { StillDue = TryStillDue(names, result, station.Apps, station.Catalogues, signals.Now) }
            : result;
    }

    /// <summary>The same, or nothing if it cannot be read: the upgrade itself is done.</summary>
    private IReadOnlyList<DueEntry>? TryStillDue(
        IReadOnlyList<string> names, RunResult result, InstalledApps apps, KnownCatalogues catalogues,
        CancellationToken cancel)
    {
        try
        {
            return StillDue(names, result, apps, catalogues, cancel);
        }
        catch (Exception fault) when (IoProblems.IsExpected(fault))
        {
            session.Note($"what is still due could not be read: {IoProblems.ToProblem(fault, "it cannot be read").Why}");
            return null;
        }
    }

    private static Plan WithUnneeded(Plan plan, MachineState machine, IOffers offers, bool areRemoved)
    {
        List<AppId> ids = [.. NotNeeded.After(machine, plan).OrderBy(id => id.Text, StringComparer.Ordinal)];
        if (!areRemoved || ids.Count == 0) return plan with { NotNeeded = [.. ids.Select(id => id.Text)] };
        var removed = new Planner(machine, offers).Uninstall([.. ids.Select(id => id.Text)]);
        return plan with { Items = [.. plan.Items.Where(item => !ids.Contains(item.App!)), .. removed.Items] };
    }

    /// <summary>What is still due once the machine has been read again.</summary>
    private static IReadOnlyList<DueEntry> StillDue(
        IReadOnlyList<string> names, RunResult result, InstalledApps apps, KnownCatalogues catalogues,
        CancellationToken cancel)
    {
        var ids = result.Plan.Items.Select(item => item.App).ToHashSet();
        return [.. HeldUpgrades.MarkAll(apps.ReadWithRealVersions(cancel), catalogues.Offers())
            .Where(entry => entry.State is DueState.Due or DueState.HeldBack or DueState.Pinned)
            .Where(entry => names.Count == 0 || ids.Contains(entry.App.Id))];
    }

    /// <summary>Names the security fixes that this upgrade does not bring.</summary>
    private void NoteHeldFixes(IReadOnlyList<string> names, MachineState machine, IOffers offers)
    {
        foreach (var entry in HeldUpgrades.FindHeldFixes(machine, offers)
            .Where(entry => names.Count == 0 || names.Contains(entry.App.Id.Text)))
            session.Note($"the security fix {entry.App.Id} {entry.HeldFix!.Version} is held back: {entry.HeldFixWhy}");
    }

    /// <summary>Names the apps without data, so that silence about them does not look like "up to date".</summary>
    private void NoteLeft(MachineState machine, IOffers offers)
    {
        foreach (var entry in DueEntry.All(machine, offers).Where(entry => entry.IsUnknown))
            session.Note($"{entry.App.Id} cannot be upgraded: {CatalogueStatus.Words(entry.App.Catalogue, offers)}");
    }
}
