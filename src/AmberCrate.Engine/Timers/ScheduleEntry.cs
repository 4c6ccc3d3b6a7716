using AmberCrate.Core.Schedules;

namespace AmberCrate.Engine.Timers;

/// <summary>A schedule, and how its task ended last.</summary>
/// <param name="Schedule">The schedule.</param>
public sealed record ScheduleEntry(Schedule Schedule)
{
    /// <summary>
    /// Whether the system has its timer. A command that was cut off may have left settings without a timer, or a timer without
    /// settings.
    /// </summary>
    public bool HasTimer { get; init; } = true;

    /// <summary>Whether its settings are there; without them the timer starts nothing.</summary>
    public bool HasSettings { get; init; } = true;

    /// <summary>When it ran last; null for never.</summary>
    public DateTimeOffset? LastRun { get; init; }

    /// <summary>The result, in one line; null for nothing yet.</summary>
    public string? LastOutcome { get; init; }

    /// <summary>When it runs next, as the timer says; null where that is unknown.</summary>
    public string? Next { get; init; }

    /// <summary>Where the timer is written down: files of systemd, or the table of cron.</summary>
    public IReadOnlyList<string> Places { get; init; } = [];
}
