using AmberCrate.Core.Planning;
using AmberCrate.Core.Problems;
using AmberCrate.Engine.Runs;

namespace AmberCrate.Engine.Operations;

/// <summary>Uninstalls apps.</summary>
/// <param name="session">The session.</param>
public sealed class Uninstall(Session session)
{
    /// <summary>Does it, as far as the person wants it.</summary>
    /// <param name="names">The installed apps.</param>
    /// <param name="wish">What goes with them.</param>
    /// <param name="withSettings">Whether what they keep in the person's home is deleted too.</param>
    /// <param name="options">What else was asked for.</param>
    /// <param name="signals">Stops the run.</param>
    /// <exception cref="ProblemException">It is refused; nothing has been changed.</exception>
    public async Task<RunResult> RunAsync(
        IReadOnlyList<string> names, UninstallWish wish, bool withSettings, RunOptions options, RunSignals signals)
    {
        using var station = new Opening(session).ToChange(options.IsDryRun, Opening.WithoutTerminal, makesRoom: true);
        var machine = station.State();
        var plan = new Planner(machine, station.Offers()).Uninstall(names, wish);
        plan = plan with
        {
            Items = [.. plan.Items.Select(item => item.Action == PlanAction.Remove
                ? new KeptSettings(station.Layout, machine.Apps).Told(item, withSettings)
                : item)],
        };
        return await new PlannedRun(session, station, options).GoAsync(plan, signals);
    }
}
