using System.CommandLine;
using System.Globalization;
using AmberCrate.Core.Problems;
using AmberCrate.Engine.Operations;

namespace AmberCrate.Cli.Commands;

/// <summary><c>acrate retry</c>.</summary>
internal static class RetryCommand
{
    public static Command Create(CancellationToken now)
    {
        var run = new Argument<string>("RUN")
        {
            Description = "The number of the run; the latest of which something is left unless named",
            Arity = ArgumentArity.ZeroOrOne,
        };
        var command = new Command("retry", "Take up what an earlier run has left: failed, open, or not reached") { run };
        command.AddRunOptions(fetches: true);
        command.SetRun((call, parsed, signals) =>
            new Retry(call.Session).RunAsync(Number(parsed.GetValue(run)), call.RunOptions(), signals), now);
        return command;
    }

    private static long? Number(string? text) => text is null ? null
        : long.TryParse(text, NumberStyles.None, CultureInfo.InvariantCulture, out var number) && number > 0 ? number
        : throw new Problem(
            ProblemCode.BadCommandLine, $"\"{text}\" is not the number of a run", "expected a whole number from 1",
            "the end of a run names it").ToException();
}
