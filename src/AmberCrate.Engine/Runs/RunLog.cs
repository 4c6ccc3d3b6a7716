using System.Globalization;
using AmberCrate.Core.Problems;
using AmberCrate.Core.Runs;
using AmberCrate.Engine.Host;
using AmberCrate.Engine.Layout;
using Serilog;
using Serilog.Core;

namespace AmberCrate.Engine.Runs;

/// <summary>
/// What a run has done, line by line, in a folder of its own: <c>run.log</c> for the whole and a file for each app. A log that
/// cannot be written is no reason to fail.
/// </summary>
public sealed class RunLog : IDisposable
{
    private const string Whole = "run";

    private readonly string _folder;
    private readonly TimeProvider _clock;
    private readonly CallOptions _call;
    private readonly Lock _guard = new();
    private readonly Dictionary<string, Logger> _open = new(StringComparer.Ordinal);
    private bool _works;

    private RunLog(string folder, TimeProvider clock, CallOptions call) => (_folder, _clock, _call) = (folder, clock, call);

    /// <summary>The log of the whole; null where it could not be written.</summary>
    public string? File => _works ? PathOf(Whole) : null;

    /// <summary>Begins the log of a run, and removes the oldest ones.</summary>
    /// <param name="layout">Where everything lies.</param>
    /// <param name="run">The number of the run.</param>
    /// <param name="keep">How many logs are kept, this one included; 0 for none.</param>
    /// <param name="clock">The clock.</param>
    /// <param name="call">The options of the call, for commands that are suggested.</param>
    public static RunLog Begin(MachineLayout layout, long run, int keep, TimeProvider clock, CallOptions call)
    {
        var log = new RunLog(FolderOf(layout, run), clock, call);
        log._works = keep > 0 && log.Prepare(layout.LogsFolder, keep);
        return log;
    }

    /// <summary>The files of the log of a run, that of the whole first; none where it is gone.</summary>
    /// <param name="layout">Where everything lies.</param>
    /// <param name="run">The number of the run.</param>
    public static IReadOnlyList<string> FilesOf(MachineLayout layout, long run)
    {
        var folder = FolderOf(layout, run);
        return Directory.Exists(folder)
            ? [.. Directory.EnumerateFiles(folder, "*.log")
                .OrderBy(file => Path.GetFileName(file) != $"{Whole}.log").ThenBy(file => file, StringComparer.Ordinal)]
            : [];
    }

    /// <summary>Writes a line about the whole run.</summary>
    public void Write(string line) => Append(Whole, line);

    /// <summary>Writes a line about one app.</summary>
    public void Write(string app, string line)
    {
        Append(app, line);
        Append(Whole, $"{app}: {line}");
    }

    /// <summary>Writes what happens in a run.</summary>
    public void WriteEvent(RunEvent happened)
    {
        switch (happened)
        {
            case RunEvent.StageBegins stage:
                Write(
                    stage.Place.Item.Id,
                    $"{StageWords.Stages.WordOf(stage.Stage)} {stage.Place.Item.To ?? stage.Place.Item.From}");
                break;
            case RunEvent.Waits waits:
                Write(waits.Place.Item.Id, $"waits {waits.Wait.TotalSeconds:0} s: {waits.Why}");
                break;
            case RunEvent.Fetched fetched:
                foreach (var (_, digest) in fetched.Place.Item.FilesToFetch)
                    Write(fetched.Place.Item.Id, $"downloaded, sha256 {digest.Hex}");
                break;
            case RunEvent.ItemEnds { Place.Number: > 0 } ended:
                WriteEnd(ended.Report);
                Close(ended.Report.Item.Id);
                break;
        }
    }

    /// <inheritdoc/>
    public void Dispose()
    {
        lock (_guard)
        {
            foreach (var logger in _open.Values) logger.Dispose();
            _open.Clear();
        }
    }

    private static string FolderOf(MachineLayout layout, long run) =>
        Path.Combine(layout.LogsFolder, run.ToString("00000", CultureInfo.InvariantCulture));

    private void WriteEnd(ItemReport report)
    {
        var app = report.Item.Id;
        foreach (var note in report.Notes) Write(app, note);
        Write(app, $"ends: {OutcomeWords.Outcomes.WordOf(report.Outcome)}");
        if (report.Problem is { } problem) WriteProblem(app, problem);
    }

    private void WriteProblem(string app, Problem problem)
    {
        Write(app, problem.What);
        if (problem.Why.Length > 0) Write(app, $"why: {problem.Why}");
        if (!problem.Remedy.IsEmpty) Write(app, $"next: {problem.Remedy.In(_call)}");
        foreach (var detail in problem.Details) Write(app, detail.In(_call));
    }

    /// <summary>
    /// Makes the folder and the first file, so that it is known whether there is a log, and drops the oldest logs.
    /// </summary>
    private bool Prepare(string logs, int keep)
    {
        try
        {
            Directory.CreateDirectory(_folder);
            System.IO.File.AppendAllText(PathOf(Whole), "");
            foreach (var old in Directory.EnumerateDirectories(logs).OrderDescending(StringComparer.Ordinal).Skip(keep))
                Directory.Delete(old, recursive: true);
            return true;
        }
        catch (Exception fault) when (fault is IOException or UnauthorizedAccessException)
        {
            return false;
        }
    }

    private void Append(string name, string line)
    {
        lock (_guard)
        {
            // Transfers and the output of an installer are reported from threads of their own.
            if (!_works) return;
            if (!_open.TryGetValue(name, out var logger)) _open.Add(name, logger = Open(name));
            logger.WriteLine(_clock, line);
        }
    }

    private void Close(string name)
    {
        lock (_guard)
        {
            if (_open.Remove(name, out var logger)) logger.Dispose();
        }
    }

    private Logger Open(string name) => new LoggerConfiguration().WriteTo
        .File(
            PathOf(name), outputTemplate: LogLine.Layout, formatProvider: CultureInfo.InvariantCulture, fileSizeLimitBytes: null)
        .CreateLogger();

    private string PathOf(string name) => Path.Combine(_folder, $"{name}.log");
}
