using AmberCrate.Cli.Tables;
using AmberCrate.Cli.Terminal;
using AmberCrate.Cli.Texts;
using AmberCrate.Core.Problems;
using AmberCrate.Core.Schedules;
using AmberCrate.Engine.Scheduling;
using AmberCrate.Engine.Timers;

namespace AmberCrate.Cli.Scheduling;

/// <summary>Shows what is on a timer.</summary>
internal static class ScheduleView
{
    /// <summary>Shows the schedules.</summary>
    public static void Show(Output output, IReadOnlyList<ScheduleEntry> entries)
    {
        if (output.IsJson)
        {
            output.Json(SchedulesDocument.FromEntries(entries));
            return;
        }

        var table = new TextTable(Shapes.Timers);
        foreach (var entry in entries)
        {
            var schedule = entry.Schedule;
            table.Add(
                new Cell(
                    $"{TaskWords.Tasks.WordOf(schedule.Task)} {schedule.Bundle ?? schedule.Published}".TrimEnd(), Tone.Strong),
                schedule.At, entry.Next ?? "",
                $"{schedule.DelayMinutes} min", schedule.Window?.ToString() ?? "",
                entry.LastRun is { } last ? PlainText.Time(last) : "never", entry.LastOutcome ?? "");
        }

        output.List(
            entries.Count == 0 ? "Nothing is on a timer." : $"{Words.Count(entries.Count, "task")} on a timer", table, "");
        foreach (var entry in entries.Where(entry => !entry.HasTimer || !entry.HasSettings))
        {
            var task = TaskWords.Tasks.WordOf(entry.Schedule.Task);
            output.Line(new Cell("attention  ", Tone.Attention), entry.HasTimer
                ? $"{task} has a timer, but its settings are missing: the timer does nothing"
                : $"{task} has settings, but the system has no timer for it");
            output.Next(NextCommand.Create("schedule clear", task));
        }

        foreach (var place in entries.SelectMany(entry => entry.Places)) output.Line(new Cell($"written to {place}", Tone.Quiet));
    }

    /// <summary>Says in one line what came of a task, for the journal or a mail.</summary>
    public static void ShowRun(Output output, ScheduledResult result)
    {
        if (output.IsJson) output.Json(new ScheduledRunDocument(result.Summary, result.Report?.Number));
        else output.Line($"acrate: {result.Summary}");
    }
}
