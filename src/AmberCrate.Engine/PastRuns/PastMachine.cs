using AmberCrate.Core.Bundles;
using AmberCrate.Core.Problems;
using AmberCrate.Core.Runs;
using AmberCrate.Engine.Exporting;
using AmberCrate.Engine.Records;
using AmberCrate.Engine.Sessions;

namespace AmberCrate.Engine.PastRuns;

/// <summary>The machine as it was at an earlier time, as the records of runs tell.</summary>
/// <param name="session">The session.</param>
/// <param name="records">The records.</param>
/// <param name="apps">What is installed now.</param>
/// <param name="capture">Writes a machine down.</param>
internal sealed class PastMachine(Session session, RecordStore records, InstalledApps apps, MachineCapture capture)
{
    /// <summary>The past of an opened root.</summary>
    public static PastMachine InRoot(Session session, OpenRoot root) => new(
        session, root.Records, root.Apps, new MachineCapture(session, root.Layout.Scope, root.Catalogues));

    /// <summary>The machine before or after a run, as a bundle.</summary>
    /// <param name="number">The run.</param>
    /// <param name="isBefore">Whether before it.</param>
    /// <exception cref="ProblemException">There is no such run.</exception>
    public Bundle BundleOf(long number, bool isBefore)
    {
        PastRun.Require(records, number);
        var last = isBefore ? number - 1 : number;
        return capture.Capture(
            RunHistory.Before(apps.Read().Apps, records.ItemsSince(last)),
            RunHistory.Before(records.Pins(), records.PinsSince(last)),
            BundleVersions.Exact,
            $"{session.Host.MachineName} {(isBefore ? "before" : "after")} run {number}");
    }
}
