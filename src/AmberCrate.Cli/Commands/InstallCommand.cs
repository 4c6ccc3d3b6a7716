using System.CommandLine;
using AmberCrate.Engine.Operations;

namespace AmberCrate.Cli.Commands;

/// <summary><c>acrate install</c>.</summary>
internal static class InstallCommand
{
    public static Command Create(CancellationToken now)
    {
        var apps = CommonOptions.Apps("What to install: [catalogue:]app[@selector]");
        var command = new Command("install", "Put apps on this machine") { apps, CommonOptions.ListFile };
        command.AddRunOptions(fetches: true);
        command.SetRun((call, parsed, signals) =>
            new Install(call.Session).RunAsync(call.References(parsed.GetValue(apps)!), call.RunOptions(), signals), now);
        return command;
    }
}
