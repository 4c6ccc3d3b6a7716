using AmberCrate.Core.Runs;
using AmberCrate.Engine.Runs;

namespace AmberCrate.Cli.Views;

/// <summary>
/// Says what a run is doing. Where somebody watches: a line for each item that has ended, and below them what is going on, redrawn.
/// Otherwise a line for each stage. For programs: a line of JSON for each event.
/// </summary>
internal sealed class ProgressView : IDisposable
{
    private const int RedrawMilliseconds = 100;
    private const int MostItems = 8;

    private readonly Output _output;
    private readonly RunProgress _progress;
    private readonly Lock _guard = new();
    private readonly Timer? _redraw;
    private bool _isOver;

    public ProgressView(Output output, TimeProvider clock)
    {
        (_output, _progress) = (output, new RunProgress(clock));
        if (output.ErrorIsTerminal && !output.IsJson) _redraw = new Timer(_ => Redraw(), null, RedrawMilliseconds, RedrawMilliseconds);
    }

    public void Watch(RunEvent happened)
    {
        lock (_guard)
        {
            _progress.Take(happened);
            if (_output.IsJson) EventView.Write(_output, happened);
            else if (_redraw is null) ShowStage(happened);
            if (happened is RunEvent.ItemEnds { Place.Number: > 0 } ended && !_output.IsJson)
            {
                _output.Block([]);
                ShowEnd(ended);
                _output.Flush();
            }
        }
    }

    /// <summary>Takes away what is going on.</summary>
    public void Dispose()
    {
        lock (_guard)
        {
            _isOver = true;
            _redraw?.Dispose();
            _output.Block([]);
        }
    }

    private void Redraw()
    {
        lock (_guard)
        {
            if (_isOver) return;
            var items = _progress.Items();
            var idWidth = items.Select(item => item.Id.Length + item.Version.Length + 1).DefaultIfEmpty(0).Max();
            List<IReadOnlyList<Cell>> lines = [[new Cell(_progress.Whole(), Tone.Quiet)]];
            foreach (var item in items.Take(MostItems))
                lines.Add(["  ", new Cell(item.Id, Tone.Strong), $" {item.Version}{new string(' ', idWidth - item.Id.Length - item.Version.Length - 1)}  ", new Cell(item.Words, item.IsWaiting ? Tone.Attention : Tone.Plain)]);
            if (items.Count > MostItems) lines.Add([new Cell($"  and {items.Count - MostItems} more", Tone.Quiet)]);
            _output.Block(lines);
        }
    }

    private void ShowStage(RunEvent happened)
    {
        switch (happened)
        {
            case RunEvent.StageBegins { Stage: RunStage.Fetching } stage:
                ShowStage(stage.Place, "fetching", $", {Words.Size(stage.Place.Item.Artifact!.DownloadSize)}");
                break;
            case RunEvent.StageBegins stage:
                ShowStage(stage.Place, RunProgress.StageWord(stage.Stage), "");
                break;
            case RunEvent.Waits waits:
                ShowStage(waits.Place, "waiting", $", {RunProgress.WaitWords(waits)["waiting".Length..].TrimStart(' ', ':')}");
                break;
        }
    }

    private void ShowStage(ItemPlace place, string stage, string more)
    {
        _output.Line($"{place.Number} of {place.Count}  {stage,-9}  ", new Cell(place.Item.Id, Tone.Strong), $" {place.Item.To ?? place.Item.From}{more}");
        _output.Flush();
    }

    private void ShowEnd(RunEvent.ItemEnds ended)
    {
        var (item, outcome) = (ended.Report.Item, ended.Report.Outcome);
        var version = item.To is null ? $"{item.From} uninstalled" : $"{item.To}";
        var tone = outcome is Outcome.Done or Outcome.Unchanged ? Tone.Plain : Tone.Attention;
        _output.Line($"{ended.Place.Number} of {ended.Place.Count}  ", new Cell($"{Words.Of(outcome),-9}", tone), "  ", new Cell(item.Id, Tone.Strong), $" {version}");
    }
}
