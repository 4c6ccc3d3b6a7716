using System.Globalization;
using System.Text;
using AmberCrate.Core.Due;
using AmberCrate.Core.Machine;
using AmberCrate.Core.Problems;
using AmberCrate.Core.Runs;
using AmberCrate.Engine.Archives;
using AmberCrate.Engine.Host;
using AmberCrate.Engine.Listing;
using AmberCrate.Engine.Records;
using AmberCrate.Engine.Sessions;

namespace AmberCrate.Engine.Due;

/// <summary>
/// The state of a machine, for monitoring: OpenMetrics 1.0 text for the folder where a node exporter reads such files. All
/// values are gauges, so that it is text of the older Prometheus format too.
/// </summary>
internal static class MetricsFile
{
    /// <summary>Writes the file, wholly or not at all.</summary>
    /// <param name="path">The file.</param>
    /// <param name="entries">The installed apps.</param>
    /// <param name="freshness">How fresh the data are.</param>
    /// <param name="last">The latest run; null for none.</param>
    /// <exception cref="ProblemException">It cannot be written.</exception>
    public static void Write(
        string path, IReadOnlyCollection<ScopedEntry> entries, DataFreshness freshness, RecordedRun? last)
    {
        var folder = Path.GetDirectoryName(Path.GetFullPath(path))!;
        if (!Directory.Exists(folder))
            throw new Problem(
                ProblemCode.StateNeedsAttention, $"{path} cannot be written", $"there is no folder {folder}",
                "make the folder, or name another file").ToException();
        try
        {
            AtomicFile.Write(path, Encoding.UTF8.GetBytes(Text(entries, freshness, last)), FolderFiller.PlainMode);
        }
        catch (Exception fault) when (IoProblems.IsExpected(fault))
        {
            throw IoProblems.ToProblem(fault, $"{path} cannot be written").ToException(fault);
        }
    }

    private static string Text(IReadOnlyCollection<ScopedEntry> entries, DataFreshness freshness, RecordedRun? last)
    {
        var text = new StringBuilder();
        Gauge(text, "apps_installed", "Apps that are installed.", [("", entries.Count)]);
        Gauge(text, "apps_due", "Apps that an upgrade would change.",
            [("", entries.Count(one => one.Entry.State == DueState.Due))]);
        Gauge(text, "apps_security_due", "Apps with a security fix that is due.",
            [("", entries.Count(one => one.Entry is { State: DueState.Due or DueState.UpdatesItself, IsSecurity: true }))]);
        Gauge(text, "apps_security_held_back", "Apps with a security fix that an upgrade does not bring.",
            [("", entries.Count(one => one.IsFixHeldBack))]);
        Count("apps_held_back", "Apps with a newer version that an upgrade does not take.", AppMark.HeldBack);
        Count("apps_damaged", "Apps with something missing on the disk.", AppMark.Damaged);
        Gauge(text, "apps_unknown", "Apps that cannot be judged, since their catalogue does not offer them.",
            [("", entries.Count(one => one.Entry.IsUnknown))]);
        Count("pins_lapsed", "Pins whose last day is over.", AppMark.PinLapsed);
        if (freshness.States.Count > 0)
        {
            Gauge(text, "catalogue_age_seconds", "How old the data of a catalogue are.",
                [.. freshness.States.Select(state => (Label("catalogue", state.Name.Text),
                    Math.Max(0, (freshness.Now - state.Refreshed).TotalSeconds)))]);
            Gauge(text, "catalogue_reached", "Whether a catalogue could be reached when it was last asked.",
                [.. freshness.States.Select(state => (Label("catalogue", state.Name.Text), state.IsReached ? 1d : 0))]);
            Gauge(text, "catalogue_fresh", "Whether what a catalogue said when it was last asked was taken.",
                [.. freshness.States.Select(state => (Label("catalogue", state.Name.Text), state.IsBehind ? 0d : 1))]);
        }

        if (last is not null) Add(text, last);
        Gauge(text, "written_timestamp_seconds", "When this was written.", [("", freshness.Now.ToUnixTimeSeconds())]);
        return text.Append("# EOF\n").ToString();

        void Count(string name, string help, AppMark mark) =>
            Gauge(text, name, help, [("", entries.Count(one => one.Marks.Contains(mark)))]);
    }

    private static void Add(StringBuilder text, RecordedRun last)
    {
        Gauge(text, "last_run_timestamp_seconds", "When the latest run began.", [("", last.Begun.ToUnixTimeSeconds())]);
        Gauge(text, "last_run_success", "Whether the latest run ended with everything done.",
            [("", last.Ended is not null && !last.IsInterrupted
                && last.Counts.All(count => count.Outcome?.IsFailure() == false) ? 1 : 0)]);
        Gauge(text, "last_run_apps", "How the apps of the latest run ended.",
            [.. Enum.GetValues<Outcome>().Select(outcome => (
                Label("outcome", OutcomeWords.Outcomes.WordOf(outcome)),
                (double)last.Counts.Where(count => count.Outcome == outcome).Sum(count => count.Count)))]);
    }

    private static void Gauge(StringBuilder text, string name, string help, IReadOnlyList<(string Labels, double Value)> values)
    {
        text.Append(CultureInfo.InvariantCulture, $"# HELP acrate_{name} {help}\n# TYPE acrate_{name} gauge\n");
        foreach (var (labels, value) in values)
            text.Append(CultureInfo.InvariantCulture, $"acrate_{name}{labels} {Math.Round(value)}\n");
    }

    private static string Label(string name, string value) => $"{{{name}=\"{value}\"}}";
}
