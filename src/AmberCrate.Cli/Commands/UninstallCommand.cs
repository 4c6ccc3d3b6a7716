using System.CommandLine;
using AmberCrate.Engine.Operations;

namespace AmberCrate.Cli.Commands;

/// <summary><c>acrate uninstall</c>.</summary>
internal static class UninstallCommand
{
    public static Command Create(CancellationToken now)
    {
        var apps = CommonOptions.Apps("The installed apps to take off");
        var command = new Command("uninstall", "Take apps off this machine") { apps, CommonOptions.ListFile };
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
