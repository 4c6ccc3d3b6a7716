using AmberCrate.Core.Plans;
using AmberCrate.Core.Problems;
using AmberCrate.Core.Runs;
using AmberCrate.Engine.Records;
using AmberCrate.Engine.Runs;
using AmberCrate.Engine.Sessions;

namespace AmberCrate.Engine.PastRuns;

/// <summary>Retries what an earlier run did not finish.</summary>
/// <param name="session">The session.</param>
public sealed class Retry(Session session)
{
    /// <summary>Plans, shows the plan, asks, and carries it out if the user agrees.</summary>
    /// <param name="number">The number of the run; null for the latest that has something left to do.</param>
    /// <param name="options">What else was requested.</param>
    /// <param name="signals">Stops the run.</param>
    /// <exception cref="ProblemException">There is no such run, or it is refused; nothing has been changed.</exception>
    public async Task<RunResult> RunAsync(long? number, RunOptions options, RunSignals signals)
    {
        using var station = await new RootOpener(session).ToChangeFreshAsync(options, signals.Soon);
        var machine = station.Apps.Read();
        var (earlier, left) = LeftOf(number, station.Records, new RunsLeft(station.Records, station.Catalogues, machine));
        if (earlier is null || left.Count == 0)
        {
            var nothing = SurveyedPlan.DoNothing(session.Layout.Scope);
            return new RunResult(RunEnd.NothingLeft, nothing, PlanDigest.Compute(nothing)) { Earlier = earlier?.Number };
        }

        session.Watch(new OperationEvent.Retrying(earlier.Number, earlier.Command));
        var plan = new RunRetry(machine, station.Catalogues.Offers()).Plan(left);
        plan = plan.WithAcceptedDigests(options.StatedDigests).WithInstallerArguments(options.InstallerArguments);
        return await new PlanExecution(session, station, options).ExecuteAsync(plan, signals);
    }

    /// <summary>The run with a number, or the latest that left something, with the items that it left.</summary>
    /// <exception cref="ProblemException">There is no run of this number.</exception>
    private static (RecordedRun? Run, IReadOnlyList<RecordedItem> Left) LeftOf(
        long? number, RecordStore records, RunsLeft runs)
    {
        if (number is { } wanted)
        {
            var named = PastRun.Require(records, wanted);
            return (named, runs.Find(named));
        }

        return runs.All().Select(one => ((RecordedRun?)one.Run, one.Left)).FirstOrDefault((null, []));
    }
}
