using AmberCrate.Core.Runs;

namespace AmberCrate.Engine.Scheduling;

/// <summary>What came of a task on a timer.</summary>
/// <param name="Summary">What happened, in one line.</param>
/// <param name="Report">How the run ended; null where there was none.</param>
/// <param name="IsQuiet">Whether nothing happened that a user would want to know.</param>
public sealed record ScheduledResult(string Summary, RunReport? Report, bool IsQuiet)
{
    /// <summary>Whether it failed without a run.</summary>
    public bool IsFailed { get; init; }
}
