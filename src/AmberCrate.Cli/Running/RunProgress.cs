using AmberCrate.Cli.Texts;
using AmberCrate.Core.Plans;
using AmberCrate.Core.Runs;
using AmberCrate.Engine.Runs;

namespace AmberCrate.Cli.Running;

/// <summary>What is going on in a run, summed up from its events.</summary>
/// <param name="clock">The clock, for speed and time left.</param>
internal sealed class RunProgress(TimeProvider clock)
{
    private const int MostCountedAtOnce = 1 << 17;
    private static readonly TimeSpan Window = TimeSpan.FromSeconds(5);
    private static readonly TimeSpan SureAfter = TimeSpan.FromSeconds(2);

    private readonly SortedDictionary<int, Work> _atWork = [];
    private readonly Dictionary<int, long> _arrived = [];
    private readonly Queue<(long At, long Bytes)> _lately = new();
    private readonly long _begun = clock.GetTimestamp();
    private int _count;
    private int _ended;
    private int _failed;
    private long _bytes;

    /// <summary>Whether it is known how much there is to do.</summary>
    public bool HasBegun => _count > 0;

    /// <summary>Takes an event.</summary>
    public void Apply(RunEvent happened)
    {
        switch (happened)
        {
            case RunEvent.Begins begins:
                (_count, _bytes) = (begins.Count, begins.Bytes);
                break;
            case RunEvent.StageBegins stage:
                _atWork[stage.Place.Number] = new Work(stage.Place.Item, StageWords.Stages.WordOf(stage.Stage), stage.Stage);
                break;
            case RunEvent.BytesArrive bytes:
                Count(bytes);
                _atWork[bytes.Place.Number] = new Work(bytes.Place.Item, Share(bytes), RunStage.Fetching);
                break;
            case RunEvent.Waits waits:
                _atWork[waits.Place.Number] =
                    new Work(waits.Place.Item, WaitWords(waits), RunStage.Fetching) { IsWaiting = true };
                break;
            case RunEvent.Fetched fetched:
                _atWork.Remove(fetched.Place.Number);
                _arrived[fetched.Place.Number] = fetched.Place.Item.Delivery!.DownloadSize;
                break;
            case RunEvent.ItemEnds { Place.Number: > 0 } ended:
                _ended++;
                if (ended.Report.Outcome == Outcome.Failed) _failed++;
                _atWork.Remove(ended.Place.Number);
                if (ended.Place.Item.Fetches) _arrived[ended.Place.Number] = ended.Place.Item.Delivery!.DownloadSize;
                break;
        }
    }

    /// <summary>
    /// How much is done, from 0 to 1. What has arrived counts three parts and what has ended one, where anything is fetched.
    /// </summary>
    public double Share()
    {
        var ended = _count == 0 ? 0 : (double)_ended / _count;
        return _bytes == 0 ? ended : ((3.0 * Arrived() / _bytes) + ended) / 4;
    }

    /// <summary>The line for the whole: how many of how many, bytes, speed, time left.</summary>
    public string FormatTotal()
    {
        var parts = new List<string> { $"{_ended - _failed} of {_count} done{(_failed > 0 ? $", {_failed} failed" : "")}" };
        var arrived = Arrived();
        if (_bytes > 0) parts.Add($"{Words.Size(arrived)} of {Words.Size(_bytes)}");
        if (Speed() is { } speed and > 0 && arrived < _bytes)
        {
            parts.Add($"{Words.Size((long)speed)}/s");
            if (clock.GetElapsedTime(_begun) > SureAfter) parts.Add(TimeLeft(TimeSpan.FromSeconds((_bytes - arrived) / speed)));
        }

        return string.Join(" · ", parts);
    }

    /// <summary>A line for every item at work: what is being changed first, then what is being fetched.</summary>
    public IReadOnlyList<(string Id, string Version, string Words, bool IsWaiting)> Items() => [.. _atWork.Values
        .OrderBy(work => work.Stage == RunStage.Fetching)
        .Select(work => (work.Item.Id, $"{work.Item.To ?? work.Item.From}", work.Words, work.IsWaiting))];

    /// <summary>Why a transfer waits, and how long.</summary>
    public static string WaitWords(RunEvent.Waits waits) => waits.Wait <= TimeSpan.Zero
        ? $"waiting: {waits.Why}"
        : $"waiting {Math.Max(1, (int)Math.Round(waits.Wait.TotalSeconds))} s: {waits.Why}";

    private long Arrived() => Math.Min(_arrived.Values.Sum(), _bytes);

    private static string Share(RunEvent.BytesArrive bytes) => bytes.Expected > 0
        ? $"downloading  {100 * Math.Min(bytes.Arrived, bytes.Expected) / bytes.Expected,3} %  {Words.Size(bytes.Arrived)} of "
            + $"{Words.Size(bytes.Expected)}"
        : $"downloading  {Words.Size(bytes.Arrived)}";

    private static string TimeLeft(TimeSpan left) => left.TotalSeconds switch
    {
        < 10 => "a few seconds left",
        < 90 => $"about {(int)Math.Round(left.TotalSeconds / 10) * 10} seconds left",
        < 90 * 60 => $"about {Words.Count((int)Math.Round(left.TotalMinutes), "minute")} left",
        _ => $"about {Words.Count((int)Math.Round(left.TotalHours), "hour")} left",
    };

    /// <summary>
    /// Counts what has come. What an earlier run had fetched is there at once, and says nothing about the speed.
    /// </summary>
    private void Count(RunEvent.BytesArrive bytes)
    {
        var before = _arrived.GetValueOrDefault(bytes.Place.Number);
        _arrived[bytes.Place.Number] = bytes.Arrived;
        _lately.Enqueue((clock.GetTimestamp(), Math.Clamp(bytes.Arrived - before, 0, MostCountedAtOnce)));
    }

    /// <summary>Bytes a second over the last seconds; null where nothing has come yet.</summary>
    private double? Speed()
    {
        while (_lately.TryPeek(out var oldest) && clock.GetElapsedTime(oldest.At) > Window) _lately.Dequeue();
        var span = clock.GetElapsedTime(_begun) < Window ? clock.GetElapsedTime(_begun) : Window;
        return _lately.Count == 0 || span <= TimeSpan.Zero ? null : _lately.Sum(part => part.Bytes) / span.TotalSeconds;
    }

    private sealed record Work(PlanItem Item, string Words, RunStage Stage)
    {
        public bool IsWaiting { get; init; }
    }
}
