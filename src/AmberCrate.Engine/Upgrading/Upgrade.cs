using AmberCrate.Core.Due;
using AmberCrate.Core.Machine;
using AmberCrate.Core.Offers;
using AmberCrate.Core.Planning;
using AmberCrate.Core.Plans;
using AmberCrate.Core.Problems;
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
        if (names.Count == 0) NoteLeft(station);
        var machine = station.StateWithRealVersions(signals.Soon);
        NoteHeldFixes(names, machine, station);
        var plan = new Planner(machine, station.Offers()).Upgrade(names, request.IsSecurityOnly)
            .WithAcceptedDigests(options.StatedDigests)
            .WithInstallerArguments(options.InstallerArguments);
        plan = WithUnneeded(plan, machine, station.Offers(), request.RemovesUnneeded);
        var result = await new PlanExecution(session, station, options).ExecuteAsync(plan, signals);
        return result is { End: RunEnd.Ran, Report.Number: not null }
            ? result with { StillDue = TryStillDue(names, result, station, signals) }
            : result;
    }

    /// <summary>The same, or nothing if it cannot be read: the upgrade itself is done.</summary>
    private IReadOnlyList<DueEntry>? TryStillDue(
        IReadOnlyList<string> names, RunResult result, Workstation station, RunSignals signals)
    {
        try
        {
            return StillDue(names, result, station, signals);
        }
        catch (Exception fault) when (IoProblems.IsExpected(fault))
        {
            session.Note($"what is still due could not be read: {IoProblems.ToProblem(fault, "it cannot be read").Why}");
            return null;
        }
    }

    private static Plan WithUnneeded(Plan plan, MachineState machine, IOffers offers, bool areRemoved)
    {
        var ids = NotNeeded.After(machine, plan).OrderBy(id => id.Text, StringComparer.Ordinal).ToList();
        if (!areRemoved || ids.Count == 0) return plan with { NotNeeded = [.. ids.Select(id => id.Text)] };
        var removed = new Planner(machine, offers).Uninstall([.. ids.Select(id => id.Text)]);
        return plan with { Items = [.. plan.Items.Where(item => !ids.Exists(id => id.Text == item.Id)), .. removed.Items] };
    }

    /// <summary>What is still due once the machine has been read again.</summary>
    private static IReadOnlyList<DueEntry> StillDue(
        IReadOnlyList<string> names, RunResult result, Workstation station, RunSignals signals)
    {
        var ids = result.Plan.Items.Select(item => item.Id).ToHashSet(StringComparer.Ordinal);
        return [.. HeldUpgrades.MarkAll(station.StateWithRealVersions(signals.Now), station.Offers())
            .Where(entry => entry.State is DueState.Due or DueState.HeldBack or DueState.Pinned)
            .Where(entry => names.Count == 0 || ids.Contains(entry.App.Id.Text))];
    }

    /// <summary>Names the security fixes that this upgrade does not bring.</summary>
    private void NoteHeldFixes(IReadOnlyList<string> names, MachineState machine, Workstation station)
    {
        foreach (var entry in HeldUpgrades.FindHeldFixes(machine, station.Offers())
            .Where(entry => names.Count == 0 || names.Contains(entry.App.Id.Text)))
            session.Note($"the security fix {entry.App.Id} {entry.HeldFix!.Version} is held back: {entry.HeldFixWhy}");
    }

    /// <summary>Names the apps without data, so that silence about them does not look like "up to date".</summary>
    private void NoteLeft(Workstation station)
    {
        var offers = station.Offers();
        foreach (var entry in DueEntry.All(station.State(), offers).Where(entry => entry.IsUnknown))
            session.Note($"{entry.App.Id} cannot be upgraded: {CatalogueStatus.Words(entry.App.Catalogue, offers)}");
    }
}
