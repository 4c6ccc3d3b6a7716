using System.CommandLine;
using AmberCrate.Cli.CommandLine;
using AmberCrate.Engine.PastRuns;

namespace AmberCrate.Cli.PastRuns;

/// <summary><c>acrate undo</c>.</summary>
internal static class UndoCommand
{
    public static Command Create(CancellationToken now)
    {
        var run = new DeclaredArgument<string>("RUN", Completion.None)
        {
            Description = "The number of the run; default: the latest that changed something",
            Arity = ArgumentArity.ZeroOrOne,
        };
        var command = new HelpedCommand("undo", "Restore the state before a run", new CommandHelp(
            "Restores the state of every app that a run has changed, with its pins and catalogues. "
                + "Old versions that are still on this machine are used without a download. "
                + "An undo is a run too, so it can be undone.",
            [1, 3, 4, 5, 6, 7, 8, 130],
            [
                ("acrate undo", "the latest run that changed something"),
                ("acrate undo 12 --dry-run", "shows what it takes to undo run 12"),
            ]))
        { run };
        command.AddRunOptions(fetches: true);
        command.SetRun((call, parsed, signals) =>
            new Undo(call.Session)
                .RunAsync(SharedArguments.ReadRunNumber(parsed.GetValue(run)), call.RunOptions(), signals), now);
        return command;
    }
}
