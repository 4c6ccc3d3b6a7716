using System.CommandLine;
using System.Globalization;
using AmberCrate.Cli.Views;
using AmberCrate.Core.Planning;
using AmberCrate.Core.Problems;
using AmberCrate.Engine.Runs;

namespace AmberCrate.Cli.Commands;

/// <summary><c>acrate retry</c>.</summary>
internal static class RetryCommand
{
    public static Command Create(CancellationToken now)
    {
        var run = new Argument<string>("RUN") { Description = "The number of the run; the latest of which something is left unless named", Arity = ArgumentArity.ZeroOrOne };
        var command = new Command("retry", "Take up what an earlier run has left: failed, open, or not reached") { run, CommonOptions.Yes, CommonOptions.DryRun, CommonOptions.Pick, CommonOptions.Skip, CommonOptions.AsShown, CommonOptions.ToInstaller, CommonOptions.EvenOpen, CommonOptions.Wait, CommonOptions.Expect, CommonOptions.Transfers, CommonOptions.Bandwidth };
        command.SetAction(async (parsed, cancel) =>
        {
            using var call = new Invocation(parsed);
            var number = Number(parsed.GetValue(run));
            using var station = await call.OpenToChangeFreshAsync(cancel);
            var left = station.Records.RunLeft(number);
            if (left is null && number is not null) throw new Problem(ProblemCode.NothingMatched, $"there is no run {number} on record").ToException();
            if (left is not { } earlier || earlier.Items.All(item => !item.IsLeft))
            {
                if (call.Output.IsJson) call.Output.Event("nothing", _ => { });
                else call.Output.Line(left is { } done ? $"Run {done.Number} has left nothing." : "No run has left anything.");
                return ExitCodes.AllAsAsked;
            }

            if (!call.Output.IsJson) call.Output.Line(new Cell($"run {earlier.Number}: {earlier.Command}", Tone.Quiet));
            var plan = new Planner(station.State(), station.Offers()).Retry(earlier.Items).Expecting(call.StatedDigests()).Giving(call.InstallerArguments());
            return await PlanRun.GoAsync(call, station, plan, new PlanView(), new RunSignals(cancel, now));
        });
        return command;
    }

    private static long? Number(string? text) => text is null ? null
        : long.TryParse(text, NumberStyles.None, CultureInfo.InvariantCulture, out var number) && number > 0 ? number
        : throw new Problem(ProblemCode.BadCommandLine, $"\"{text}\" is not the number of a run", "expected a whole number from 1", "the end of a run names it").ToException();
}
