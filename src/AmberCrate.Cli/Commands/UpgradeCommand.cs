using System.CommandLine;
using AmberCrate.Cli.Views;
using AmberCrate.Core.Planning;
using AmberCrate.Engine.Runs;

namespace AmberCrate.Cli.Commands;

/// <summary><c>acrate upgrade</c>.</summary>
internal static class UpgradeCommand
{
    public static Command Create(CancellationToken now)
    {
        var apps = new Argument<string[]>("APP") { Description = "The installed apps to bring up to date; all that are due unless named", Arity = ArgumentArity.ZeroOrMore };
        var command = new Command("upgrade", "Bring installed apps up to date, within what was asked for") { apps, CommonOptions.ListFile, CommonOptions.Yes, CommonOptions.DryRun, CommonOptions.Pick, CommonOptions.Skip, CommonOptions.AsShown, CommonOptions.ToInstaller, CommonOptions.EvenOpen, CommonOptions.Wait, CommonOptions.Expect, CommonOptions.Transfers, CommonOptions.Bandwidth };
        command.SetAction(async (parsed, cancel) =>
        {
            using var call = new Invocation(parsed);
            var names = call.InstalledNames(parsed.GetValue(apps)!);
            using var station = await call.OpenToChangeFreshAsync(cancel);
            var plan = new Planner(station.State(), station.Offers()).Upgrade(names).Expecting(call.StatedDigests()).Giving(call.InstallerArguments());
            return await PlanRun.GoAsync(call, station, plan, new PlanView(), new RunSignals(cancel, now));
        });
        return command;
    }
}
