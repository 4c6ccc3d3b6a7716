using System.CommandLine;
using System.Globalization;
using AmberCrate.Core.Problems;
using AmberCrate.Engine.PastRuns;

namespace AmberCrate.Cli.Commands;

/// <summary><c>acrate retry</c>.</summary>
internal static class RetryCommand
{
    public static Command Create(CancellationToken now)
    {
        var run = new DeclaredArgument<string>("RUN", Completion.None)
        {
            Description = "The number of the run; the latest that left something where none is named",
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
            new Retry(call.Session).RunAsync(Number(parsed.GetValue(run)), call.RunOptions(), signals), now);
        return command;
    }

    /// <summary>The number of a run, as it was typed.</summary>
    /// <exception cref="ProblemException">It is none.</exception>
    public static long? Number(string? text) => text is null ? null
        : long.TryParse(text, NumberStyles.None, CultureInfo.InvariantCulture, out var number) && number > 0 ? number
        : throw new Problem(
            ProblemCode.BadCommandLine, $"\"{text}\" is not the number of a run", "expected a whole number from 1",
            "the end of a run names it").ToException();
}
