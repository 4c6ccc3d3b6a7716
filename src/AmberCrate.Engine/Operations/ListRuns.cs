using AmberCrate.Core.Bundles;
using AmberCrate.Core.Problems;
using AmberCrate.Core.Runs;
using AmberCrate.Engine.Bundles;
using AmberCrate.Engine.Records;

namespace AmberCrate.Engine.Operations;

/// <summary>Looks at what earlier runs have done.</summary>
/// <param name="session">The session.</param>
public sealed class ListRuns(Session session)
{
    /// <summary>How many runs are listed unless all are wanted.</summary>
    public const int Usual = 20;

    /// <summary>The latest runs, the latest first.</summary>
    /// <param name="isAll">Whether all are wanted.</param>
    public RunsResult Run(bool isAll)
    {
        using var station = new Opening(session).ToRead();
        return new RunsResult(
            station.Records.Runs(isAll ? int.MaxValue : Usual), station.Records.RunCount(), station.Now);
    }

    /// <summary>One run in full.</summary>
    /// <param name="number">Its number.</param>
    /// <exception cref="ProblemException">There is no such run.</exception>
    public RunDetails Details(long number)
    {
        using var station = new Opening(session).ToRead();
        var run = Required(number, station);
        return new RunDetails(
            run, station.Records.PinsOf(number), station.Records.CataloguesOf(number),
            LogsOf(station, number), station.Now);
    }

    /// <summary>The machine as it was before or after a run, as a bundle.</summary>
    /// <param name="number">The run.</param>
    /// <param name="isBefore">Whether before it; otherwise after it.</param>
    /// <param name="file">The file to write; null for none.</param>
    /// <exception cref="ProblemException">There is no such run, or the file cannot be written.</exception>
    public ExportResult Bundle(long number, bool isBefore, string? file)
    {
        using var station = new Opening(session).ToRead();
        Required(number, station);
        var last = isBefore ? number - 1 : number;
        var apps = RunHistory.Before(station.State().Apps, station.Records.ItemsSince(last));
        var pins = RunHistory.Before(station.Records.Pins(), station.Records.PinsSince(last));
        var capture = new BundleCapture(session.Host.MachineName, station.Today);
        var title = $"{session.Host.MachineName} {(isBefore ? "before" : "after")} run {number}";
        var (bundle, notCarried) = BundleCapturing.Capture(
            apps, station.BundleCatalogues(), capture, withVersions: true, title, pins);
        if (file is null) return new ExportResult(bundle, null, [], notCarried);
        var (path, notHere) = BundleFile.Write(file, bundle, false);
        return new ExportResult(bundle, path, notHere, notCarried);
    }

    private static RecordedRun Required(long number, Workstation station) => station.Records.Run(number)
        ?? throw new Problem(
            ProblemCode.NothingMatched, $"there is no run {number} on record", remedy: NextCommand.Of("runs")).ToException();

    private static IReadOnlyList<string> LogsOf(Workstation station, long number) => Runs.RunLog.FilesOf(station.Layout, number);
}
