using AmberCrate.Core.Runs;
using AmberCrate.Engine.Running;

namespace AmberCrate.Cli.Views;

/// <summary>Says what a run is doing: one moving line where somebody watches, and a line for each item that has ended.</summary>
internal sealed class ProgressView(Output output)
{
    private const int RedrawMilliseconds = 80;

    private long _drawn;

    public void Watch(RunEvent happened)
    {
        switch (happened)
        {
            case RunEvent.StageBegins stage:
                output.Status($"{stage.Number} of {stage.Count}  {stage.Item.Id} {stage.Item.To}  {Stage(stage.Stage)}");
                break;
            case RunEvent.BytesArrive bytes when Environment.TickCount64 - _drawn > RedrawMilliseconds:
                _drawn = Environment.TickCount64;
                output.Status($"{bytes.Number} of {bytes.Count}  {bytes.Item.Id} {bytes.Item.To}  fetching {Words.Size(bytes.Arrived)} of {Words.Size(bytes.Expected)}");
                break;
            case RunEvent.ItemEnds { Number: > 0 } ended when !output.IsJson:
                Clear();
                ShowEnd(ended);
                break;
        }
    }

    /// <summary>Takes the moving line away.</summary>
    public void Clear() => output.Status("");

    private void ShowEnd(RunEvent.ItemEnds ended)
    {
        var (item, outcome) = (ended.Report.Item, ended.Report.Outcome);
        var version = item.To is null ? $"{item.From} uninstalled" : $"{item.To}";
        var tone = outcome is Outcome.Done or Outcome.Unchanged ? Tone.Plain : Tone.Attention;
        output.Line($"{ended.Number} of {ended.Count}  ", new Cell($"{Words.Of(outcome),-9}", tone), "  ", new Cell(item.Id, Tone.Strong), $" {version}");
        output.Flush();
    }

    private static string Stage(RunStage stage) => stage switch
    {
        RunStage.Fetching => "fetching",
        RunStage.Unpacking => "unpacking",
        RunStage.Placing => "placing",
        _ => "removing",
    };
}
