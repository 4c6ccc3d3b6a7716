using AmberCrate.Cli.Terminal;
using AmberCrate.Cli.Texts;
using AmberCrate.Core.Schedules;
using AmberCrate.Engine.Timers;

namespace AmberCrate.Cli.Scheduling;

/// <summary>What is on a timer, as JSON.</summary>
internal sealed record SchedulesDocument(IReadOnlyList<ScheduleDocument> Schedules, int Format = DocumentFormat.Number)
{
    public static SchedulesDocument FromEntries(IEnumerable<ScheduleEntry> entries) => new([.. entries.Select(entry =>
        new ScheduleDocument(
        TaskWords.Tasks.WordOf(entry.Schedule.Task), entry.Schedule.At, entry.Next, entry.Schedule.DelayMinutes,
        entry.Schedule.Window?.ToString(), entry.Schedule.Metrics, entry.Schedule.Notifies, entry.Schedule.IsSecurityOnly,
        entry.Schedule.WaitMinutes, entry.LastRun is { } last ? PlainText.Time(last) : null, entry.LastOutcome, entry.Places)
        {
            Bundle = entry.Schedule.Bundle, Published = entry.Schedule.Published, Keys = entry.Schedule.Keys,
            UninstallsOthers = entry.Schedule.UninstallsOthers, Upgrades = entry.Schedule.Upgrades,
            HasTimer = entry.HasTimer, HasSettings = entry.HasSettings,
        })]);
}

/// <summary>A task on a timer, as JSON.</summary>
internal sealed record ScheduleDocument(
    string Task, string At, string? Next, int DelayMinutes, string? Window, string? Metrics, bool Notifies, bool SecurityOnly,
    int WaitMinutes, string? LastRun, string? LastOutcome, IReadOnlyList<string> Places)
{
    public string? Bundle { get; init; }

    public string? Published { get; init; }

    public string? Keys { get; init; }

    public bool UninstallsOthers { get; init; }

    public bool Upgrades { get; init; }

    public bool HasTimer { get; init; }

    public bool HasSettings { get; init; }
}

/// <summary>What came of a task on a timer, as JSON.</summary>
internal sealed record ScheduledRunDocument(string Summary, long? Run, int Format = DocumentFormat.Number);
