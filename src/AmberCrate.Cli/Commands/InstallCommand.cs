using System.CommandLine;
using AmberCrate.Cli.Views;
using AmberCrate.Core.Planning;
using AmberCrate.Engine.Runs;

namespace AmberCrate.Cli.Commands;

/// <summary><c>acrate install</c>.</summary>
internal static class InstallCommand
{
    public static Command Create(CancellationToken now)
    {
        var apps = new Argument<string[]>("APP") { Description = "What to install: [catalogue:]app[@selector]", Arity = ArgumentArity.ZeroOrMore };
        var command = new Command("install", "Put apps on this machine") { apps, CommonOptions.ListFile, CommonOptions.Yes, CommonOptions.DryRun, CommonOptions.Pick, CommonOptions.Skip, CommonOptions.AsShown, CommonOptions.ToInstaller, CommonOptions.EvenOpen, CommonOptions.Wait, CommonOptions.Expect, CommonOptions.Transfers, CommonOptions.Bandwidth };
        command.SetAction(async (parsed, cancel) =>
        {
            using var call = new Invocation(parsed);
            var references = call.References(parsed.GetValue(apps)!);
            using var station = await call.OpenToChangeFreshAsync(cancel);
            var plan = new Planner(station.State(), station.Offers()).Install(references).Expecting(call.StatedDigests()).Giving(call.InstallerArguments());
            return await PlanRun.GoAsync(call, station, plan, new PlanView(), new RunSignals(cancel, now));
        });
        return command;
    }
}
