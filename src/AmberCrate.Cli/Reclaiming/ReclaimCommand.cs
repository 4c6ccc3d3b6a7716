using System.CommandLine;
using AmberCrate.Cli.CommandLine;
using AmberCrate.Core.Problems;
using AmberCrate.Engine.Reclaiming;
using AmberCrate.Engine.Sessions;

namespace AmberCrate.Cli.Reclaiming;

/// <summary><c>acrate reclaim</c>.</summary>
internal static class ReclaimCommand
{
    public static Command Create()
    {
        var command = new HelpedCommand("reclaim", "Free disk space", new CommandHelp(
            "Deletes old versions, downloads, leftovers and old logs, after showing how much space each frees. What undo "
                + "needs stays for some days (setting undo_days), and so does what is in use or pinned.",
            [1, 7, 8, 130],
            [
                ("acrate reclaim", "shows what can go, and asks"),
                ("acrate reclaim --dry-run", "only shows it"),
            ]))
        { CommonOptions.Yes, CommonOptions.DryRun, CommonOptions.Wait, CommonOptions.Quiet };
        command.SetAction((parsed, cancel) =>
        {
            using var call = new Call(parsed);
            var result = new Reclaim(call.Session).Run(call.RunOptions(), cancel);
            ReclaimView.Show(call.Output, result);
            return Task.FromResult(result switch
            {
                { End: RunEnd.CalledOff } or { IsInterrupted: true } => ExitCodes.ForProblem(ProblemCode.Interrupted),
                { Failed.Count: > 0 } => ExitCodes.SomeFailed,
                _ => ExitCodes.AllAsAsked,
            });
        });
        return command;
    }
}
