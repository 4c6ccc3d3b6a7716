using AmberCrate.Core.Machine;
using AmberCrate.Core.Pins;
using AmberCrate.Core.Plans;
using AmberCrate.Core.Problems;
using AmberCrate.Core.Runs;
using AmberCrate.Core.Values;
using AmberCrate.Engine.Catalogues;
using AmberCrate.Engine.Records;
using AmberCrate.Engine.Runs;
using AmberCrate.Engine.Sessions;

namespace AmberCrate.Engine.PastRuns;

/// <summary>Restores the state of a machine before a run.</summary>
/// <param name="session">The session.</param>
public sealed class Undo(Session session)
{
    /// <summary>Plans, shows the plan, asks, and carries it out if the user agrees.</summary>
    /// <param name="number">The number of the run; null for the latest that has changed something.</param>
    /// <param name="options">What else was requested.</param>
    /// <param name="signals">Stops the run.</param>
    /// <exception cref="ProblemException">There is no such run, or it is refused; nothing has been changed.</exception>
    public async Task<RunResult> RunAsync(long? number, RunOptions options, RunSignals signals)
    {
        using var station = new RootOpener(session).ToChange(options.IsDryRun, RootOpener.WithoutTerminal);
        var wanted = number ?? station.Records.LatestThatChanged() ?? throw new Problem(
            ProblemCode.NothingMatched, "no run has changed anything", remedy: NextCommand.Create("runs")).ToException();
        var run = PastRun.Require(station.Records, wanted);
        var pins = PinsBack(run, station.Records);
        var machine = station.Apps.Read();
        machine = machine.With(new PinList(
            machine.Pins.All.Where(pin => !pins.Any(back => back.App == pin.App))
                .Concat(pins.Select(pin => pin.After).OfType<Pin>()),
            machine.Pins.Today));
        var inspector = station.Apps.Inspector;
        var plan = new RunUndo(machine, station.Catalogues.Offers(), app => inspector.IsShelfWhole(app, isDeep: true))
            .Plan(run.Number, run.Items, run.Begun)
            .WithAcceptedDigests(options.StatedDigests)
            .WithInstallerArguments(options.InstallerArguments);
        plan = plan with { Pins = pins, Catalogues = CataloguesBack(run, station.Records, machine, plan) };
        session.Watch(new OperationEvent.Undoing(run.Number, run.Command));
        return await new PlanExecution(session, station, options).ExecuteAsync(plan, signals);
    }

    /// <summary>The pins that the run has changed and nobody since.</summary>
    private static IReadOnlyList<PlannedPin> PinsBack(RecordedRun run, RecordStore records)
    {
        var now = records.Pins().ToDictionary(pin => pin.App);
        return [.. records.PinsOf(run.Number)
            .Where(pin => Equals(now.GetValueOrDefault(pin.App), pin.After))
            .Select(pin => new PlannedPin(pin.App, pin.After, pin.Before))];
    }

    /// <summary>
    /// The catalogues that the run has added, which are dropped where no app is left of them, and those that it has dropped.
    /// </summary>
    private List<PlannedCatalogue> CataloguesBack(RecordedRun run, RecordStore records, MachineState machine, Plan plan)
    {
        var known = records.Catalogues();
        var gone = plan.Items.Where(item => item.Action == PlanAction.Remove).Select(item => item.App).ToHashSet();
        List<PlannedCatalogue> back = [];
        foreach (var (catalogue, wasDropped) in records.CataloguesOf(run.Number))
        {
            var isHere = known.Any(one => one.Name == catalogue.Name && one.Location == catalogue.Location);
            var isTaken = known.Any(one => one.Name == catalogue.Name);
            if (wasDropped && !isTaken) back.Add(
                new PlannedCatalogue(catalogue.Name, catalogue.Location)
                {
                    Trust = catalogue.Trust, Mirrors = catalogue.Mirrors,
                });
            if (wasDropped || !isHere) continue;
            if (StillUsing(catalogue, machine, gone) is { Count: > 0 } users)
                session.Note($"the catalogue {catalogue.Name} stays, since these came from it: {string.Join(", ", users)}");
            else back.Add(new PlannedCatalogue(catalogue.Name, catalogue.Location)
            {
                IsDropped = true, Trust = catalogue.Trust, Mirrors = catalogue.Mirrors,
            });
        }

        return back;
    }

    private static List<string> StillUsing(RegisteredCatalogue catalogue, MachineState machine, HashSet<AppId?> gone) =>
        [.. machine.Apps.Where(app => app.Catalogue == catalogue.Name && !gone.Contains(app.Id))
            .Select(app => app.Id.Text)];
}
