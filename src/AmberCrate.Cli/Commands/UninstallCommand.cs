using System.CommandLine;
using AmberCrate.Engine.Operations;

namespace AmberCrate.Cli.Commands;

/// <summary><c>acrate uninstall</c>.</summary>
internal static class UninstallCommand
{
    public static Command Create(CancellationToken now)
    {
        var apps = CommonOptions.Apps("An installed app: its id or name", Completion.InstalledApp);
        var command = new HelpedCommand("uninstall", "Remove apps", new CommandHelp(
            "Removes apps and what they have placed outside their folder. Files that you have changed stay, and "
                + "are named. An app that others need is not removed unless they are removed too.",
            [1, 3, 4, 7, 8, 130],
            [
                ("acrate uninstall cue-ledger", "removes one app, after asking"),
                ("acrate uninstall gantry-plot poster-cut --yes", "removes two without asking"),
            ]))
        { apps, CommonOptions.ListFile };
        command.AddRunOptions(fetches: false);
        command.SetRun((call, parsed, signals) =>
        {
            var names = call.InstalledNames(parsed.GetValue(apps)!);
            return names.Count > 0
                ? new Uninstall(call.Session).RunAsync(names, call.RunOptions(), signals)
                : throw call.NoApp().ToException();
        }, now);
        return command;
    }
}
