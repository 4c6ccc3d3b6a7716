using System.CommandLine;
using AmberCrate.Cli.CommandLine;
using AmberCrate.Engine.Installing;

namespace AmberCrate.Cli.Installing;

/// <summary><c>acrate adopt</c>.</summary>
internal static class AdoptCommand
{
    public static Command Create(CancellationToken now)
    {
        var apps = CommonOptions.Apps(
            "Software that others put on this machine: the app that it is, or the name of its package or menu entry",
            Completion.OfferedApp);
        var command = new HelpedCommand("adopt", "Manage software that others put here", new CommandHelp(
            "Installs the app of a catalogue that software on this machine is, so that it is kept up to date from now on. What "
                + "others put here is not touched: the plan says what remains, and how its owner removes it.",
            [1, 3, 4, 5, 6, 7, 8, 130],
            [
                ("acrate list --observed", "software that others put here, and which catalogue has it"),
                ("acrate adopt scrim-paint", "installs Scrim Paint beside the system's package"),
            ]))
        { apps, CommonOptions.ListFile };
        command.AddRunOptions(fetches: true);
        command.SetRun((call, parsed, signals) =>
            new Adopt(call.Session).RunAsync(call.References(parsed.GetValue(apps)!), call.RunOptions(), signals), now);
        return command;
    }
}
