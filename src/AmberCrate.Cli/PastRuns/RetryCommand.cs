using System.CommandLine;
using AmberCrate.Cli.CommandLine;
using AmberCrate.Engine.PastRuns;

namespace AmberCrate.Cli.PastRuns;

/// <summary><c>acrate retry</c>.</summary>
internal static class RetryCommand
{
    public static Command Create(CancellationToken now)
    {
        var run = new DeclaredArgument<string>("RUN", Completion.None)
        {
            Description = "The number of the run; default: the latest that left something",
            Arity = ArgumentArity.ZeroOrOne,
        };
        var command = new HelpedCommand("retry", "Retry what an earlier run did not finish", new CommandHelp(
            "Retries what an earlier run did not finish: apps that failed, were in use, or were not reached. They "
                + "are planned again, from what the catalogues offer now.",
            [1, 3, 4, 5, 6, 7, 8, 130],
            [
                ("acrate retry", "the latest run that left something"),
                ("acrate retry 12 --even-in-use", "run 12, also apps that are in use"),
            ]))
        { run };
        command.AddRunOptions(fetches: true);
        command.SetRun((call, parsed, signals) =>
            new Retry(call.Session)
                .RunAsync(SharedArguments.ReadRunNumber(parsed.GetValue(run)), call.RunOptions(), signals), now);
        return command;
    }
}
