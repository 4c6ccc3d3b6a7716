using AmberCrate.Core.Problems;
using AmberCrate.Engine.Exporting;
using AmberCrate.Engine.Runs;
using AmberCrate.Engine.Sessions;

namespace AmberCrate.Engine.PastRuns;

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
        using var station = new RootOpener(session).ToRead();
        return new RunsResult(
            station.Records.Runs(isAll ? int.MaxValue : Usual), station.Records.RunCount(), session.Now)
        {
            First = station.Records.FirstRun(),
        };
    }

    /// <summary>One run in full.</summary>
    /// <param name="number">Its number.</param>
    /// <exception cref="ProblemException">There is no such run.</exception>
    public RunDetails Details(long number)
    {
        using var station = new RootOpener(session).ToRead();
        var run = PastRun.Require(station.Records, number);
        return new RunDetails(
            run, station.Records.PinsOf(number), station.Records.CataloguesOf(number),
            RunLog.FilesOf(station.Layout, number), session.Now,
            new RunsLeft(station.Records, station.Catalogues, station.Apps.Read()).Find(run).Count > 0);
    }

    /// <summary>The machine before or after a run, as a bundle.</summary>
    /// <param name="number">The run.</param>
    /// <param name="isBefore">Whether before it; otherwise after it.</param>
    /// <param name="file">The file to write; null for none.</param>
    /// <exception cref="ProblemException">There is no such run, or the file cannot be written.</exception>
    public ExportResult Bundle(long number, bool isBefore, string? file)
    {
        using var station = new RootOpener(session).ToRead();
        var bundle = PastMachine.InRoot(session, station).BundleOf(number, isBefore);
        return Export.Written(new ExportRequest(file), bundle, () => throw new InvalidOperationException("a bundle is written"));
    }
}
