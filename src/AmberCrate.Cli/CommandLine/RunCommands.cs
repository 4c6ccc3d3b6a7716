using System.CommandLine;
using AmberCrate.Cli.Running;
using AmberCrate.Core.Problems;
using AmberCrate.Engine.Runs;
using AmberCrate.Engine.Sessions;

namespace AmberCrate.Cli.CommandLine;

/// <summary>What all commands have in common that change apps.</summary>
internal static class RunCommands
{
    /// <summary>Adds the options that control a run.</summary>
    public static void AddRunOptions(this Command command, bool fetches)
    {
        Add(command,
        [
            CommonOptions.Yes, CommonOptions.DryRun, CommonOptions.Pick, CommonOptions.Skip, CommonOptions.AsShown,
            CommonOptions.EvenInUse, CommonOptions.Wait, CommonOptions.Quiet,
        ]);
        if (fetches)
            Add(
                command,
                [
                    CommonOptions.InstallerArguments, CommonOptions.AcceptDigest, CommonOptions.AllowUnconfined,
                    CommonOptions.Shadow, CommonOptions.Downloads, CommonOptions.Bandwidth,
                ]);
    }

    /// <summary>Has a command run an operation, show its result and end with its code.</summary>
    /// <param name="command">The command.</param>
    /// <param name="run">Runs the operation.</param>
    /// <param name="now">Is cancelled when the user stops a run for the second time.</param>
    public static void SetRun(
        this Command command,
        Func<Call, ParseResult, RunSignals, Task<RunResult>> run,
        CancellationToken now) => command.SetAction(async (parsed, cancel) =>
    {
        using var call = new Call(parsed);
        return await RunAsync(call, signals => run(call, parsed, signals), cancel, now);
    });

    /// <summary>Runs an operation, shows its result, and gives its code.</summary>
    /// <param name="call">The call.</param>
    /// <param name="run">Runs the operation.</param>
    /// <param name="cancel">Is cancelled when the user stops it.</param>
    /// <param name="now">Is cancelled when they do so again.</param>
    public static async Task<int> RunAsync(
        Call call, Func<RunSignals, Task<RunResult>> run, CancellationToken cancel, CancellationToken now)
    {
        var file = call.ReportFile();
        var result = await run(new RunSignals(cancel, now));
        call.EndProgress();
        file?.Write(result, call);
        RunView.Show(call.Output, result);
        return result switch
        {
            { End: RunEnd.CalledOff } => ExitCodes.ForProblem(ProblemCode.Interrupted),
            { Report: { } report } => ExitCodes.ForReport(report),
            { End: RunEnd.PlanOnly } => ExitCodes.ForPlan(result.Plan),
            _ => ExitCodes.AllAsAsked,
        };
    }

    private static void Add(Command command, Option[] options)
    {
        foreach (var option in options) command.Options.Add(option);
    }
}
