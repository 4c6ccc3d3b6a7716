using AmberCrate.Core.Pins;
using AmberCrate.Core.Plans;
using AmberCrate.Core.Problems;
using AmberCrate.Core.Runs;
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
        var run = (number ?? station.Records.LatestThatChanged()) is { } wanted ? station.Records.Run(wanted) : null;
        if (run is null)
            throw new Problem(
                ProblemCode.NothingMatched,
                number is null ? "no run has changed anything" : $"there is no run {number} on record",
                remedy: NextCommand.Create("runs")).ToException();
        var pins = PinsBack(run, station);
        var machine = station.State();
        machine = machine.With(new PinList(
            machine.Pins.All.Where(pin => !pins.Any(back => back.App == pin.App))
                .Concat(pins.Select(pin => pin.After).OfType<Pin>()),
            machine.Pins.Today));
        var plan = new RunUndo(machine, station.Offers(), app => station.Inspector.IsShelfWhole(app, isDeep: true))
            .Plan(run.Number, run.Items, run.Begun)
            .WithAcceptedDigests(options.StatedDigests)
            .WithInstallerArguments(options.InstallerArguments);
        plan = plan with { Pins = pins, Catalogues = CataloguesBack(run, station, plan) };
        session.Watch(new OperationEvent.Undoing(run.Number, run.Command));
        return await new PlanExecution(session, station, options).ExecuteAsync(plan, signals);
    }

    /// <summary>The pins that the run has changed and nobody since.</summary>
    private static IReadOnlyList<PlannedPin> PinsBack(RecordedRun run, Workstation station)
    {
        var now = station.Records.Pins().ToDictionary(pin => pin.App);
        return [.. station.Records.PinsOf(run.Number)
            .Where(pin => Equals(now.GetValueOrDefault(pin.App), pin.After))
            .Select(pin => new PlannedPin(pin.App, pin.After, pin.Before))];
    }

    /// <summary>
    /// The catalogues that the run has added, which are dropped where no app is left of them, and those that it has dropped.
    /// </summary>
    private List<PlannedCatalogue> CataloguesBack(RecordedRun run, Workstation station, Plan plan)
    {
        var known = station.Records.Catalogues();
        var gone = plan.Items.Where(item => item.Action == PlanAction.Remove).Select(item => item.Id).ToHashSet();
        List<PlannedCatalogue> back = [];
        foreach (var (catalogue, wasDropped) in station.Records.CataloguesOf(run.Number))
        {
            var isHere = known.Any(one => one.Name == catalogue.Name && one.Location == catalogue.Location);
            var isTaken = known.Any(one => one.Name == catalogue.Name);
            if (wasDropped && !isTaken) back.Add(
                new PlannedCatalogue(catalogue.Name, catalogue.Location)
                {
                    Trust = catalogue.Trust, Mirrors = catalogue.Mirrors,
                });
            if (wasDropped || !isHere) continue;
            if (StillUsing(catalogue, station, gone) is { Count: > 0 } users)
                session.Note($"the catalogue {catalogue.Name} stays, since these came from it: {string.Join(", ", users)}");
            else back.Add(new PlannedCatalogue(catalogue.Name, catalogue.Location)
            {
                IsDropped = true, Trust = catalogue.Trust, Mirrors = catalogue.Mirrors,
            });
        }

        return back;
    }

    private static List<string> StillUsing(RegisteredCatalogue catalogue, Workstation station, HashSet<string> gone) =>
        [.. station.State().Apps.Where(app => app.Catalogue == catalogue.Name && !gone.Contains(app.Id.Text))
            .Select(app => app.Id.Text)];
}
