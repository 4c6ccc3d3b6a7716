using System.CommandLine;
using AmberCrate.Cli.Views;
using AmberCrate.Core.Planning;
using AmberCrate.Core.Problems;
using AmberCrate.Engine.Runs;

namespace AmberCrate.Cli.Commands;

/// <summary><c>acrate uninstall</c>.</summary>
internal static class UninstallCommand
{
    public static Command Create(CancellationToken now)
    {
        var apps = new Argument<string[]>("APP") { Description = "The installed apps to take off", Arity = ArgumentArity.ZeroOrMore };
        var command = new Command("uninstall", "Take apps off this machine") { apps, CommonOptions.ListFile, CommonOptions.Yes, CommonOptions.DryRun, CommonOptions.Pick, CommonOptions.Skip, CommonOptions.AsShown, CommonOptions.EvenOpen, CommonOptions.Wait };
        command.SetAction(async (parsed, cancel) =>
        {
            using var call = new Invocation(parsed);
            var names = call.InstalledNames(parsed.GetValue(apps)!);
            if (names.Count == 0) throw new Problem(ProblemCode.BadCommandLine, "no app is named", Remedy: "acrate uninstall --help").ToException();
            using var station = call.OpenToChange();
            var plan = new Planner(station.State(), station.Offers()).Uninstall(names);
            return await PlanRun.GoAsync(call, station, plan, new PlanView(), new RunSignals(cancel, now));
        });
        return command;
    }
}
