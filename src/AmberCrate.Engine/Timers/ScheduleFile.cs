using System.Text.Json;
using AmberCrate.Core.Problems;
using AmberCrate.Core.Schedules;
using AmberCrate.Core.Values;
using AmberCrate.Engine.Archives;
using AmberCrate.Engine.Host;
using AmberCrate.Engine.Layout;

namespace AmberCrate.Engine.Timers;

/// <summary>What is done on a timer, and how it ended last: one JSON file in the state folder.</summary>
/// <param name="layout">Where everything lies.</param>
public sealed class ScheduleFile(MachineLayout layout)
{
    private const int Version = 1;

    private string Path => System.IO.Path.Combine(layout.StateFolder, "schedules.json");

    /// <summary>All schedules with their last outcomes, in the order of the tasks.</summary>
    /// <exception cref="ProblemException">The file cannot be read.</exception>
    public IReadOnlyList<ScheduleEntry> Read()
    {
        if (!File.Exists(Path)) return [];
        try
        {
            using var json = JsonDocument.Parse(File.ReadAllText(Path));
            if (json.RootElement.GetProperty("schedules").GetInt32() != Version) throw new MalformedException("another format");
            return [.. json.RootElement.GetProperty("tasks").EnumerateArray().Select(EntryOf).OrderBy(entry =>
                entry.Schedule.Task)];
        }
        catch (Exception fault) when (fault is MalformedException || ForeignText.IsOfText(fault))
        {
            throw new Problem(
                ProblemCode.StateNeedsAttention, $"{Path} cannot be read",
                fault is MalformedException ? fault.Message : ForeignText.Words(fault),
                $"delete it, and set the schedules again: {NextCommand.Create("schedule set")}").ToException(fault);
        }
    }

    /// <summary>Writes all schedules.</summary>
    public void Write(IEnumerable<ScheduleEntry> entries)
    {
        var bytes = new System.Buffers.ArrayBufferWriter<byte>();
        using (var json = new Utf8JsonWriter(bytes, new JsonWriterOptions { Indented = true }))
        {
            json.WriteStartObject();
            json.WriteNumber("schedules", Version);
            json.WriteStartArray("tasks");
            foreach (var entry in entries) Write(json, entry);
            json.WriteEndArray();
            json.WriteEndObject();
        }

        AtomicFile.Write(Path, bytes.WrittenSpan, FolderFiller.PlainMode);
    }

    private static void Write(Utf8JsonWriter json, ScheduleEntry entry)
    {
        var schedule = entry.Schedule;
        json.WriteStartObject();
        json.WriteString("task", TaskWords.Tasks.WordOf(schedule.Task));
        json.WriteString("at", schedule.At);
        json.WriteNumber("delay_minutes", schedule.DelayMinutes);
        if (schedule.Window is { } window) json.WriteString("window", window.ToString());
        if (schedule.Metrics is { } metrics) json.WriteString("metrics", metrics);
        if (schedule.Bundle is { } bundle) json.WriteString("bundle", bundle);
        if (schedule.Published is { } published) json.WriteString("published", published);
        if (schedule.Keys is { } keys) json.WriteString("keys", keys);
        if (schedule.PassphraseFile is { } passphrase) json.WriteString("passphrase_file", passphrase);
        if (schedule.UninstallsOthers) json.WriteBoolean("uninstalls_others", true);
        if (schedule.Upgrades) json.WriteBoolean("upgrades", true);
        json.WriteBoolean("notifies", schedule.Notifies);
        json.WriteBoolean("security_only", schedule.IsSecurityOnly);
        json.WriteNumber("wait_minutes", schedule.WaitMinutes);
        if (entry is { LastRun: { } last, LastOutcome: { } outcome })
        {
            json.WriteString("last_run", last);
            json.WriteString("last_outcome", outcome);
        }

        json.WriteEndObject();
    }

    private static ScheduleEntry EntryOf(JsonElement json)
    {
        MaintenanceWindow? window = null;
        if (Text("window") is { } text && !MaintenanceWindow.TryParse(text, out window))
            throw new MalformedException($"window: expected {MaintenanceWindow.Expected}");
        return new ScheduleEntry(new Schedule(TaskWords.Tasks.Read(json.GetProperty("task").GetString()!), json.GetProperty("at")
            .GetString()!)
        {
            DelayMinutes = json.GetProperty("delay_minutes").GetInt32(), Window = window, Metrics = Text("metrics"),
            Notifies = json.GetProperty("notifies").GetBoolean(), IsSecurityOnly = json.GetProperty("security_only").GetBoolean(),
            WaitMinutes = json.GetProperty("wait_minutes").GetInt32(), Bundle = Text("bundle"),
            Published = Text("published"), Keys = Text("keys"), PassphraseFile = Text("passphrase_file"),
            UninstallsOthers = json.TryGetProperty("uninstalls_others", out var others) && others.GetBoolean(),
            Upgrades = json.TryGetProperty("upgrades", out var upgrades) && upgrades.GetBoolean(),
        })
        {
            LastRun = json.TryGetProperty("last_run", out var last) ? last.GetDateTimeOffset() : null,
            LastOutcome = Text("last_outcome"),
        };

        string? Text(string key) => json.TryGetProperty(key, out var value) ? value.GetString() : null;
    }
}
