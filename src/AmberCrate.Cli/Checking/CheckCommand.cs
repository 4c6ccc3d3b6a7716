using System.CommandLine;
using AmberCrate.Cli.CommandLine;
using AmberCrate.Core.Problems;
using AmberCrate.Engine.Checking;

namespace AmberCrate.Cli.Checking;

/// <summary><c>acrate check</c>.</summary>
internal static class CheckCommand
{
    public static Command Create(CancellationToken now)
    {
        var apps = CommonOptions.Apps("An installed app: its id or name; default: all, and the machine",
            Completion.InstalledApp);
        var deep = new DeclaredOption<bool>(OptionGroup.Selection, "--deep")
        {
            Description = "Read every installed file and compare its digest",
        };
        var repair = new DeclaredOption<bool>(OptionGroup.Plan, "--repair")
        {
            Description = "Put damaged apps right, after showing the plan",
        };
        var command = new HelpedCommand("check", "Compare what is installed with what should be", new CommandHelp(
            "Compares everything on record with the disk: files, links, menu entries, commands, pins, catalogues, room. Each "
                + "finding says how bad it is and what to do. With --repair damaged apps are placed again from this machine, or "
                + "downloaded again. Files that were changed by hand are left.",
            [1, 3, 4, 5, 6, 7, 8, 9, 130],
            [
                ("acrate check scrim-paint --deep", "reads every file of one app"),
                ("acrate check --repair", "puts right what is damaged, after asking"),
            ]))
        { apps, deep, repair };
        command.AddRunOptions(fetches: true);
        command.SetAction(async (parsed, cancel) =>
        {
            using var call = new Call(parsed);
            var names = call.InstalledNames(parsed.GetValue(apps)!);
            var operation = new CheckMachine(call.Session);
            if (parsed.GetValue(repair))
                return await RunCommands.RunAsync(call, signals =>
                    operation.RepairAsync(names, parsed.GetValue(deep), call.RunOptions(), signals), cancel, now);
            var result = await operation.RunAsync(names, parsed.GetValue(deep), cancel);
            CheckView.Show(call.Output, result);
            return result.IsBroken ? ExitCodes.ForProblem(ProblemCode.StateNeedsAttention) : ExitCodes.AllAsAsked;
        });
        return command;
    }
}
