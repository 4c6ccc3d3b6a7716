using AmberCrate.Core.Machine;
using AmberCrate.Core.Planning;
using AmberCrate.Core.Plans;
using AmberCrate.Core.Problems;
using AmberCrate.Core.Values;
using AmberCrate.Engine.Records;
using AmberCrate.Engine.Runs;
using AmberCrate.Engine.Sessions;

namespace AmberCrate.Engine.Removing;

/// <summary>Uninstalls apps.</summary>
/// <param name="session">The session.</param>
public sealed class Uninstall(Session session)
{
    /// <summary>Plans, shows the plan, asks, and carries it out if the user agrees.</summary>
    /// <param name="names">The installed apps.</param>
    /// <param name="request">Further options.</param>
    /// <param name="withSettings">Whether what they keep in the user's home is deleted too.</param>
    /// <param name="options">What else was requested.</param>
    /// <param name="signals">Stops the run.</param>
    /// <exception cref="ProblemException">It is refused; nothing has been changed.</exception>
    public async Task<RunResult> RunAsync(
        IReadOnlyList<string> names, UninstallRequest request, bool withSettings, RunOptions options, RunSignals signals)
    {
        using var station = new RootOpener(session).ToChange(options.IsDryRun, RootOpener.WithoutTerminal, makesRoom: true);
        var machine = station.Apps.Read();
        foreach (var name in names) RequireOwn(name, machine, station.Layout.Scope, station.Other);
        var plan = new Planner(machine, station.Catalogues.Offers()).Uninstall(names, request);
        plan = plan with
        {
            Items = [.. plan.Items.Select(item => item.Action == PlanAction.Remove
                ? new KeptSettings(station.Layout, machine.Apps).Told(item, withSettings)
                : item)],
        };
        return await new PlanExecution(session, station, options).ExecuteAsync(plan, signals);
    }

    /// <summary>An app that is only there in the other scope is not called unknown.</summary>
    /// <exception cref="ProblemException">It is there in the other scope alone.</exception>
    private static void RequireOwn(string name, MachineState machine, InstallScope scope, OtherScope others)
    {
        if (machine.Named(name).Count > 0 || others.Apps.FirstOrDefault(app => app.Id.Text == name) is not { } other)
            return;
        var isForAll = scope == InstallScope.ThisUser;
        throw new Problem(
            ProblemCode.NothingMatched,
            isForAll ? $"{name} is installed for all users, not for you alone" : $"{name} is not installed for all users",
            isForAll ? $"its version is {other.Version}" : "you have it for yourself",
            isForAll ? NextCommand.Create("uninstall", name).ForAllUsers() : "leave out --all-users").ToException();
    }
}
