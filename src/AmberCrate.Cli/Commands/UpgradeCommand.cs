using System.CommandLine;
using AmberCrate.Engine.Operations;

namespace AmberCrate.Cli.Commands;

/// <summary><c>acrate upgrade</c>.</summary>
internal static class UpgradeCommand
{
    public static Command Create(CancellationToken now)
    {
        var apps = CommonOptions.Apps("The installed apps to bring up to date; all that are due unless named");
        var command =
            new Command("upgrade", "Bring installed apps up to date, within what was asked for") { apps, CommonOptions.ListFile };
        command.AddRunOptions(fetches: true);
        command.SetRun((call, parsed, signals) =>
            new Upgrade(call.Session).RunAsync(call.InstalledNames(parsed.GetValue(apps)!), call.RunOptions(), signals), now);
        return command;
    }
}
