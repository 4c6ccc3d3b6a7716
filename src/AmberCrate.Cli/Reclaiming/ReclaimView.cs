using AmberCrate.Cli.Running;
using AmberCrate.Cli.Tables;
using AmberCrate.Cli.Terminal;
using AmberCrate.Cli.Texts;
using AmberCrate.Engine.Reclaiming;
using AmberCrate.Engine.Sessions;

namespace AmberCrate.Cli.Reclaiming;

/// <summary>Shows what takes space, and how much was freed.</summary>
internal static class ReclaimView
{
    /// <summary>Shows the result.</summary>
    public static void Show(Output output, ReclaimResult result)
    {
        if (output.IsJson)
        {
            output.Json(ReclaimDocument.FromResult(result));
            return;
        }

        switch (result.End)
        {
            case RunEnd.PlanOnly:
                ReclaimPlanView.Show(output, result.Plan);
                break;
            case RunEnd.NothingLeft:
                ReclaimPlanView.Show(output, result.Plan);
                output.Line("Nothing to reclaim.");
                break;
            case RunEnd.CalledOff:
                output.Line("Nothing has been deleted.");
                break;
            default:
                output.Line(
                    new Cell($"{Words.Size(result.Freed)} freed.", Tone.Strong),
                    result.IsInterrupted ? " Stopped: the rest was not deleted." : "");
                foreach (var (item, fault) in result.Failed)
                    output.Line(new Cell("failed  ", Tone.Attention), $"{item.Path}: {fault}");
                break;
        }
    }
}
