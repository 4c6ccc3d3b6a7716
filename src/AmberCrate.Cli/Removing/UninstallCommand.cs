using System.CommandLine;
using AmberCrate.Cli.CommandLine;
using AmberCrate.Core.Planning;
using AmberCrate.Engine.Removing;

namespace AmberCrate.Cli.Removing;

/// <summary><c>acrate uninstall</c>.</summary>
internal static class UninstallCommand
{
    public static Command Create(CancellationToken now)
    {
        var apps = CommonOptions.Apps("An installed app: its id or name", Completion.InstalledApp);
        var neededBy = new DeclaredOption<bool>(OptionGroup.Selection, "--and-needed-by")
        {
            Description = "Also uninstall the apps that need these",
        };
        var settings = new DeclaredOption<bool>(OptionGroup.Selection, "--with-settings")
        {
            Description = "Also delete the settings and data of these apps in your home; the plan names them",
        };
        var command = new HelpedCommand("uninstall", "Remove apps", new CommandHelp(
            "Removes apps and what they have placed outside their folder. Files that you have changed stay, and "
                + "are named. An app that others need, or that is protected, is not removed; the others are.",
            [1, 3, 4, 7, 8, 130],
            [
                ("acrate uninstall batten-runtime --and-needed-by", "removes it and the apps that need it"),
                ("acrate uninstall gantry-plot poster-cut --yes", "removes two without asking"),
            ]))
        { apps, CommonOptions.ListFile, neededBy, CommonOptions.RemoveUnneeded, settings };
        command.AddRunOptions(fetches: false);
        command.SetRun((call, parsed, signals) =>
        {
            var names = call.InstalledNames(parsed.GetValue(apps)!);
            return names.Count > 0
                ? new Uninstall(call.Session).RunAsync(
                    names,
                    new UninstallRequest
                    {
                        AndNeededBy = parsed.GetValue(neededBy),
                        AndUnneeded = parsed.GetValue(CommonOptions.RemoveUnneeded),
                    },
                    parsed.GetValue(settings), call.RunOptions(), signals)
                : throw call.NoApp().ToException();
        }, now);
        return command;
    }
}
