using AmberCrate.Core.Planning;
using AmberCrate.Core.Problems;
using AmberCrate.Core.Versions;
using AmberCrate.Engine.Runs;

namespace AmberCrate.Engine.Operations;

/// <summary>Installs apps.</summary>
/// <param name="session">The session.</param>
public sealed class Install(Session session)
{
    /// <summary>Does it, as far as the person wants it.</summary>
    /// <param name="references">The apps, and what of them.</param>
    /// <param name="options">What else was asked for.</param>
    /// <param name="signals">Stops the run.</param>
    /// <exception cref="ProblemException">It is refused; nothing has been changed.</exception>
    /// <param name="isAgain">Whether apps that are installed are put on anew.</param>
    public async Task<RunResult> RunAsync(
        IReadOnlyList<AppReference> references, RunOptions options, RunSignals signals, bool isAgain = false)
    {
        using var station = await new Opening(session).ToChangeFreshAsync(options, signals.Soon);
        var plan = new Planner(station.State(), station.Offers()) { PutsOnAgain = isAgain }.Install(references)
            .WithAcceptedDigests(options.StatedDigests)
            .WithInstallerArguments(options.InstallerArguments);
        return await new PlannedRun(session, station, options).GoAsync(plan, signals, isAllOrNothing: true);
    }
}
