using AmberCrate.Cli.Tables;
using AmberCrate.Cli.Terminal;
using AmberCrate.Cli.Texts;
using AmberCrate.Engine.Sessions;

namespace AmberCrate.Cli.Running;

/// <summary>Shows what an operation has to say while it works.</summary>
/// <param name="output">Where to.</param>
/// <param name="clock">The clock, for speed and time left.</param>
internal sealed class OperationView(Output output, TimeProvider clock) : IDisposable
{
    private static readonly TimeSpan SilentFor = TimeSpan.FromSeconds(1), Redraw = TimeSpan.FromMilliseconds(100);

    private readonly Lock _guard = new();
    private ProgressView? _progress;
    private long? _workBegan;
    private long _workShown;

    public void Watch(OperationEvent happened)
    {
        switch (happened)
        {
            case OperationEvent.Noticed notice:
                output.Notice(notice.Text);
                break;
            case OperationEvent.Refreshing refresh:
                output.Status($"refreshing {refresh.Name}: {refresh.Done} of {refresh.Count} parts");
                break;
            case OperationEvent.Writing writing:
                output.Status(
                    $"writing {writing.Name}: {Words.Size(writing.Done)} of {Words.Size(writing.Size)}");
                break;
            case OperationEvent.WorkEnds:
                EndWork();
                break;
            case OperationEvent.Working working:
                Show(working);
                break;
            case OperationEvent.Retrying retry:
                if (!output.IsJson) output.Line(new Cell($"run {retry.Number}: {retry.Command}", Tone.Quiet));
                break;
            case OperationEvent.Reclaiming { Plan: var plan }:
                if (!output.IsQuiet) ReclaimPlanView.Show(output, plan);
                break;
            case OperationEvent.Undoing undo:
                if (!output.IsJson) output.Line(new Cell($"undoing run {undo.Number}: {undo.Command}", Tone.Quiet));
                break;
            case OperationEvent.Planned planned:
                Show(planned);
                break;
            case OperationEvent.RunBegins begins:
                _progress = new ProgressView(output, clock, draws: !begins.TakesTerminal);
                break;
            case OperationEvent.Happened { Event: var step }:
                _progress!.Watch(step);
                break;
        }
    }

    /// <summary>Tells remarks only.</summary>
    public void WatchNotes(OperationEvent happened)
    {
        if (happened is OperationEvent.Noticed) Watch(happened);
    }

    /// <summary>Takes away what is going on.</summary>
    public void Dispose()
    {
        _progress?.Dispose();
        _progress = null;
    }

    /// <summary>Work that takes less than a second is not worth a line.</summary>
    private void Show(OperationEvent.Working working)
    {
        lock (_guard)
        {
            var now = clock.GetTimestamp();
            _workBegan ??= now;
            if (clock.GetElapsedTime(_workBegan.Value, now) < SilentFor || clock.GetElapsedTime(_workShown, now) < Redraw) return;
            _workShown = now;
            output.Status($"{working.What}: {working.Done} of {working.Count}");
        }
    }

    private void EndWork()
    {
        (_workBegan, _workShown) = (null, 0);
        output.Status("");
    }

    private void Show(OperationEvent.Planned planned)
    {
        if (output.IsJson)
        {
            output.Event(PlanDocument.FromPlan(planned.Plan, planned.Digest, output.Call, isEvent: true));
            return;
        }

        if (output.IsQuiet) return;
        PlanView.Show(output, planned.Plan);
        if (planned.Plan.ChangesApps) output.Line();
        output.Flush();
    }
}
