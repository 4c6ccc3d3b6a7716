using AmberCrate.Core.Planning;
using AmberCrate.Core.Problems;
using AmberCrate.Core.Runs;
using AmberCrate.Engine.Runs;

namespace AmberCrate.Engine.Operations;

/// <summary>Retries what an earlier run did not finish.</summary>
/// <param name="session">The session.</param>
public sealed class Retry(Session session)
{
    /// <summary>Does it, as far as the person wants it.</summary>
    /// <param name="number">The number of the run; null for the latest of which something is left.</param>
    /// <param name="options">What else was asked for.</param>
    /// <param name="signals">Stops the run.</param>
    /// <exception cref="ProblemException">There is no such run, or it is refused; nothing has been changed.</exception>
    public async Task<RunResult> RunAsync(long? number, RunOptions options, RunSignals signals)
    {
        using var station = await new Opening(session).ToChangeFreshAsync(options, signals.Soon);
        var earlier = station.Records.RunLeft(number);
        if (earlier is null && number is not null)
            throw new Problem(ProblemCode.NothingMatched, $"there is no run {number} on record").ToException();
        if (earlier is null || !earlier.IsLeft)
        {
            var nothing = new Plan([]);
            return new RunResult(RunEnd.NothingLeft, nothing, PlanDigest.Of(nothing)) { Earlier = earlier?.Number };
        }

        session.Watch(new OperationEvent.Retrying(earlier.Number, earlier.Command));
        var machine = station.State();
        var plan = new RunRetry(machine, station.Offers()).Plan(earlier.Items);
        plan = plan.WithAcceptedDigests(options.StatedDigests).WithInstallerArguments(options.InstallerArguments);
        return await new PlannedRun(session, station, options).GoAsync(plan, signals);
    }
}
