using System.CommandLine;
using AmberCrate.Cli.CommandLine;
using AmberCrate.Engine.Upgrading;

namespace AmberCrate.Cli.Upgrading;

/// <summary><c>acrate upgrade</c>.</summary>
internal static class UpgradeCommand
{
    public static Command Create(CancellationToken now)
    {
        var apps = CommonOptions.Apps(
            "An installed app: its id or name; default: all that are outdated", Completion.InstalledApp);
        var security = new DeclaredOption<bool>(OptionGroup.Selection, "--security-only")
        {
            Description = "Only apps that have a security fix due",
        };
        var command = new HelpedCommand("upgrade", "Bring installed apps up to date", new CommandHelp(
            "Brings installed apps to the newest version of what they follow. Each goes as far as the others "
                + "allow, and pins hold. An app in use keeps its old version; acrate retry upgrades it once it is "
                + "closed. Apps that update themselves are upgraded only where they are named.",
            [1, 3, 4, 5, 6, 7, 8, 130],
            [
                ("acrate upgrade", "everything that is outdated"),
                ("acrate upgrade --wait-closed 30", "waits up to 30 minutes for apps to be closed"),
            ]))
        { apps, CommonOptions.ListFile, security, CommonOptions.RemoveUnneeded, CommonOptions.WaitClosed };
        command.AddRunOptions(fetches: true);
        command.SetRun((call, parsed, signals) =>
            new Upgrade(call.Session).RunAsync(
                call.InstalledNames(parsed.GetValue(apps)!),
                new UpgradeRequest
                {
                    IsSecurityOnly = parsed.GetValue(security),
                    RemovesUnneeded = parsed.GetValue(CommonOptions.RemoveUnneeded),
                },
                call.RunOptions(), signals), now);
        return command;
    }
}
