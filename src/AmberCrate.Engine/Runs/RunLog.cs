using System.Globalization;
using AmberCrate.Core.Problems;
using AmberCrate.Core.Runs;
using AmberCrate.Engine.Layout;

namespace AmberCrate.Engine.Runs;

/// <summary>
/// What a run has done, line by line, in a folder of its own: <c>run.log</c> for the whole and a file for each app. A log that
/// cannot be written is no reason to fail.
/// </summary>
public sealed class RunLog
{
    private readonly string _folder;
    private readonly TimeProvider _clock;
    private readonly Lock _guard = new();
    private bool _works;

    private RunLog(string folder, TimeProvider clock) => (_folder, _clock) = (folder, clock);

    /// <summary>The log of the whole; null where it could not be written.</summary>
    public string? File => _works ? Path.Combine(_folder, "run.log") : null;

    /// <summary>Begins the log of a run, and removes the oldest ones.</summary>
    /// <param name="layout">Where everything lies.</param>
    /// <param name="run">The number of the run.</param>
    /// <param name="keep">How many logs are kept, this one included; 0 for none.</param>
    /// <param name="clock">Tells the time.</param>
    public static RunLog Begin(MachineLayout layout, long run, int keep, TimeProvider clock)
    {
        var log = new RunLog(Path.Combine(layout.LogsFolder, run.ToString("00000", CultureInfo.InvariantCulture)), clock);
        if (keep == 0) return log;
        log._works = Try(() =>
        {
            Directory.CreateDirectory(log._folder);
            foreach (var old in Directory.EnumerateDirectories(layout.LogsFolder).OrderDescending(StringComparer.Ordinal).Skip(keep)) Directory.Delete(old, recursive: true);
        });
        return log;
    }

    /// <summary>The log of one app; null where there is none.</summary>
    public string? FileOf(string app) => _works && Path.Combine(_folder, $"{app}.log") is var file && System.IO.File.Exists(file) ? file : null;

    /// <summary>Writes a line about the whole run.</summary>
    public void Write(string line) => Append("run.log", line);

    /// <summary>Writes a line about one app.</summary>
    public void Write(string app, string line)
    {
        Append($"{app}.log", line);
        Append("run.log", $"{app}: {line}");
    }

    /// <summary>Writes what happens in a run.</summary>
    public void Take(RunEvent happened)
    {
        switch (happened)
        {
            case RunEvent.StageBegins stage:
                Write(stage.Place.Item.Id, $"{stage.Stage.ToString().ToLowerInvariant()} {stage.Place.Item.To ?? stage.Place.Item.From}");
                break;
            case RunEvent.Waits waits:
                Write(waits.Place.Item.Id, $"waits {waits.Wait.TotalSeconds:0} s: {waits.Why}");
                break;
            case RunEvent.Fetched fetched:
                Write(fetched.Place.Item.Id, $"fetched, sha256 {fetched.Place.Item.FileDigest!.Hex}");
                break;
            case RunEvent.ItemEnds { Place.Number: > 0 } ended:
                WriteEnd(ended.Report);
                break;
        }
    }

    private void WriteEnd(ItemReport report)
    {
        var app = report.Item.Id;
        foreach (var note in report.Notes) Write(app, note);
        Write(app, $"ends: {report.Outcome.ToString().ToLowerInvariant()}");
        if (report.Problem is { } problem) WriteProblem(app, problem);
    }

    private void WriteProblem(string app, Problem problem)
    {
        Write(app, problem.What);
        if (problem.Why.Length > 0) Write(app, $"why: {problem.Why}");
        if (problem.Remedy.Length > 0) Write(app, $"next: {problem.Remedy}");
        foreach (var detail in problem.Details) Write(app, detail);
    }

    private void Append(string file, string line)
    {
        var clean = string.Concat(line.Select(letter => char.IsControl(letter) ? ' ' : letter));
        lock (_guard)
        {
            // Transfers and the output of an installer are told from threads of their own.
            _works = _works && Try(() => System.IO.File.AppendAllText(Path.Combine(_folder, file), $"{_clock.GetUtcNow():yyyy-MM-dd'T'HH:mm:ss.fff'Z'}  {clean}\n"));
        }
    }

    private static bool Try(Action action)
    {
        try
        {
            action();
            return true;
        }
        catch (Exception fault) when (fault is IOException or UnauthorizedAccessException)
        {
            return false;
        }
    }
}
