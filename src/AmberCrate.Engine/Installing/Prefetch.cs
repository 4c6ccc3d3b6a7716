using AmberCrate.Core.Planning;
using AmberCrate.Core.Problems;
using AmberCrate.Core.Versions;
using AmberCrate.Engine.Runs;
using AmberCrate.Engine.Sessions;

namespace AmberCrate.Engine.Installing;

/// <summary>Fetches into the cache what an install or upgrade will need.</summary>
/// <param name="session">The session.</param>
public sealed class Prefetch(Session session)
{
    /// <summary>Plans, and downloads the files of the plan without installing them.</summary>
    /// <param name="references">The apps, and what of them; null for what an upgrade would fetch.</param>
    /// <param name="options">What else was requested.</param>
    /// <param name="cancel">Stops; what has arrived stays for another time.</param>
    /// <exception cref="ProblemException">It is refused.</exception>
    public async Task<RunResult> RunAsync(IReadOnlyList<AppReference>? references, RunOptions options, CancellationToken cancel)
    {
        var opening = new RootOpener(session);
        if (!options.IsDryRun) opening.RaiseIfNeeded([]);
        using var station = await opening.ToReadFreshAsync(cancel);
        var planner = new Planner(station.Apps.Read(), station.Catalogues.Offers());
        var plan =
            (references is null ? planner.Upgrade([]) : planner.Install(references)).WithAcceptedDigests(options.StatedDigests);
        plan = new SystemSurvey(station.Placing.System).LeaveOutLacking(plan);
        return await new PlanExecution(session, station, options).PrefetchAsync(plan, cancel);
    }
}
