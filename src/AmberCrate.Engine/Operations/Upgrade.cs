using AmberCrate.Core.Planning;
using AmberCrate.Core.Problems;
using AmberCrate.Engine.Runs;

namespace AmberCrate.Engine.Operations;

/// <summary>Brings installed apps up to date, within what was asked for.</summary>
/// <param name="session">The session.</param>
public sealed class Upgrade(Session session)
{
    /// <summary>Does it, as far as the person wants it.</summary>
    /// <param name="names">The installed apps; none for all that are due.</param>
    /// <param name="options">What else was asked for.</param>
    /// <param name="signals">Stops the run.</param>
    /// <exception cref="ProblemException">It is refused; nothing has been changed.</exception>
    public async Task<RunResult> RunAsync(IReadOnlyList<string> names, RunOptions options, RunSignals signals)
    {
        using var station = await new Opening(session).ToChangeFreshAsync(options, signals.Soon);
        var plan = new Planner(station.State(), station.Offers()).Upgrade(names)
            .WithAcceptedDigests(options.StatedDigests)
            .WithInstallerArguments(options.InstallerArguments);
        return await new PlannedRun(session, station, options).GoAsync(plan, signals);
    }
}
