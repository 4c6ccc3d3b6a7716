using AmberCrate.Cli.Tables;
using AmberCrate.Cli.Terminal;
using AmberCrate.Cli.Texts;
using AmberCrate.Core.Runs;
using AmberCrate.Engine.Runs;
using Spectre.Console;
using Spectre.Console.Rendering;

namespace AmberCrate.Cli.Running;

/// <summary>
/// Says what a run is doing. Where a user watches: one line of the whole and below it what is going on, redrawn. It goes when
/// the run ends, and the report is what stays. Otherwise a line for each app, with --verbose for each stage. For programs: a line
/// of JSON for each event.
/// </summary>
internal sealed class ProgressView : IDisposable
{
    private const int MostItems = 8, Crates = 16;
    private static readonly TimeSpan Redraw = TimeSpan.FromMilliseconds(100);

    private readonly Output _output;
    private readonly RunProgress _progress;
    private readonly Lock _guard = new();
    private readonly CancellationTokenSource _over = new();
    private readonly Task? _drawing;
    private readonly Task? _telling;

    /// <summary>Begins to say it.</summary>
    /// <param name="output">Where to.</param>
    /// <param name="clock">The clock.</param>
    /// <param name="draws">Whether the terminal may be drawn on.</param>
    public ProgressView(Output output, TimeProvider clock, bool draws = true)
    {
        (_output, _progress) = (output, new RunProgress(clock));
        if (!draws || !output.ErrorIsTerminal || output.IsJson || output.IsQuiet) return;
        if (!output.HasEscapes)
        {
            _telling = Task.Run(TellAsync);
            return;
        }

        output.Flush();
        output.Moves = true;
        _drawing = Task.Run(DrawAsync);
    }

    public void Watch(RunEvent happened)
    {
        lock (_guard)
        {
            _progress.Apply(happened);
            if (_output.IsJson) Write(happened);
            else if (_drawing is null && _output.IsVerbose) ShowStage(happened);
            if (happened is not RunEvent.ItemEnds { Place.Number: > 0 } ended || _output.IsJson || _output.IsQuiet) return;
            if (_drawing is null || _output.IsVerbose) ShowEnd(ended);
            _output.Flush();
        }
    }

    /// <summary>Takes away what is going on.</summary>
    public void Dispose()
    {
        _over.Cancel();
        _drawing?.GetAwaiter().GetResult();
        _telling?.GetAwaiter().GetResult();
        _output.Moves = false;
        _output.Flush();
        _over.Dispose();
    }

    private Task DrawAsync() => _output.Moving.Live(new Text("")).AutoClear(true).StartAsync(async live =>
    {
        while (!_over.IsCancellationRequested)
        {
            lock (_guard)
            {
                if (_progress.HasBegun)
                {
                    live.UpdateTarget(Picture());
                    live.Refresh();
                    _output.Flush();
                }
            }

            await Task.Delay(Redraw, _over.Token).ConfigureAwait(ConfigureAwaitOptions.SuppressThrowing);
        }
    });

    /// <summary>Says now and then how the whole gets on, on a terminal that gets no escape sequences.</summary>
    private async Task TellAsync()
    {
        while (true)
        {
            await Task.Delay(Output.Seldom, _over.Token).ConfigureAwait(ConfigureAwaitOptions.SuppressThrowing);
            if (_over.IsCancellationRequested) return;
            lock (_guard)
            {
                if (!_progress.HasBegun) continue;
                _output.Line(_progress.FormatTotal());
                _output.Flush();
            }
        }
    }

    private Rows Picture()
    {
        var items = _progress.Items();
        var idWidth = items.Select(item => item.Id.Length + item.Version.Length + 1).DefaultIfEmpty(0).Max();
        List<IRenderable> lines = [Line([new Cell(Bar(), Tone.Strong), "  ", _progress.FormatTotal()])];
        foreach (var item in items.Take(MostItems))
        {
            var gap = new string(' ', idWidth - item.Id.Length - item.Version.Length - 1);
            lines.Add(Line(
            [
                "  ", new Cell(item.Id, Tone.Strong), $" {item.Version}{gap}  ",
                new Cell(item.Words, item.IsWaiting ? Tone.Attention : Tone.Plain),
            ]));
        }

        if (items.Count > MostItems) lines.Add(Line([new Cell($"  and {items.Count - MostItems} more", Tone.Quiet)]));
        return new Rows(lines);
    }

    /// <summary>A row of crates; those that are done are full. A console without such letters gets plain ones.</summary>
    private string Bar()
    {
        var full = (int)(_progress.Share() * Crates);
        var (fullCrate, emptyCrate) = Environment.GetEnvironmentVariable("TERM") == "linux" ? ('#', '.') : ('\u25a3', '\u25a2');
        return new string(fullCrate, full) + new string(emptyCrate, Crates - full);
    }

    /// <summary>A line that is cut off where the terminal ends.</summary>
    private static Paragraph Line(IEnumerable<Cell> pieces)
    {
        var line = new Paragraph { Overflow = Overflow.Ellipsis };
        var room = Math.Max(1, Output.Width - 1);
        foreach (var piece in pieces)
        {
            var text = room <= 0 ? "" : DisplayWidth.Start(Printable.Line(piece.Text), room);
            room -= DisplayWidth.Measure(text);
            line.Append(text, Palette.StyleOf(piece.Tone));
        }

        return line;
    }

    private void Write(RunEvent happened)
    {
        switch (happened)
        {
            case RunEvent.Begins begins:
                _output.Event(new BeginsEvent("begins", begins.Count, begins.Bytes));
                break;
            case RunEvent.StageBegins { Place: var place } stage:
                _output.Event(new StageEvent(
                    "stage", place.Number, place.Count, place.Item.Id, Version(place), StageWords.Stages.WordOf(stage.Stage)));
                break;
            case RunEvent.Waits { Place: var place } waits:
                _output.Event(new WaitsEvent(
                    "waits", place.Number, place.Count, place.Item.Id, Version(place), Math.Round(waits.Wait.TotalSeconds, 3),
                    waits.Why));
                break;
            case RunEvent.Fetched { Place: var place }:
                _output.Event(new FetchedEvent("downloaded", place.Number, place.Count, place.Item.Id, Version(place)));
                break;
            case RunEvent.ItemEnds ended:
                _output.Event(ItemEvent.FromEvent(ended, _output.Call));
                break;
        }

        _output.Flush();
    }

    private static string? Version(ItemPosition place) => (place.Item.To ?? place.Item.From)?.Text;

    private void ShowStage(RunEvent happened)
    {
        switch (happened)
        {
            case RunEvent.StageBegins { Stage: RunStage.Fetching } stage:
                ShowStage(stage.Place, "downloading", $", {Words.Size(stage.Place.Item.Delivery!.DownloadSize)}");
                break;
            case RunEvent.StageBegins stage:
                ShowStage(stage.Place, StageWords.Stages.WordOf(stage.Stage), "");
                break;
            case RunEvent.Waits waits:
                ShowStage(waits.Place, "waiting", $", {RunProgress.WaitWords(waits)["waiting".Length..].TrimStart(' ', ':')}");
                break;
        }
    }

    private void ShowStage(ItemPosition place, string stage, string more)
    {
        _output.Line(
            $"{place.Number} of {place.Count}  {stage,-11}  ", new Cell(place.Item.Id, Tone.Strong),
            $" {place.Item.To ?? place.Item.From}{more}");
        _output.Flush();
    }

    private void ShowEnd(RunEvent.ItemEnds ended)
    {
        var (item, outcome) = (ended.Report.Item, ended.Report.Outcome);
        var version = item.To is null && outcome.IsDone() ? $"{item.From} uninstalled" : $"{item.To ?? item.From}";
        var tone = outcome.IsDone() || outcome == Outcome.Unchanged ? Tone.Plain : Tone.Attention;
        var word = OutcomeWords.Outcomes.WordOf(outcome);
        _output.Line(
            $"{ended.Place.Number} of {ended.Place.Count}  ", new Cell($"{word,-9}", tone), "  ",
            new Cell(item.Id, Tone.Strong), $" {version}");
    }
}
