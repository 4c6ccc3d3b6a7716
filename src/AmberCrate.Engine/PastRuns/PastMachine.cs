using AmberCrate.Core.Bundles;
using AmberCrate.Core.Problems;
using AmberCrate.Core.Runs;
using AmberCrate.Engine.Exporting;
using AmberCrate.Engine.Records;
using AmberCrate.Engine.Sessions;

namespace AmberCrate.Engine.PastRuns;

/// <summary>The machine as it was at an earlier time, as the records of runs tell.</summary>
/// <param name="session">The session.</param>
/// <param name="station">What the operation works on.</param>
internal sealed class PastMachine(Session session, Workstation station)
{
    /// <summary>The machine before or after a run, as a bundle.</summary>
    /// <param name="number">The run.</param>
    /// <param name="isBefore">Whether before it.</param>
    /// <exception cref="ProblemException">There is no such run.</exception>
    public Bundle BundleOf(long number, bool isBefore)
    {
        Required(number);
        var last = isBefore ? number - 1 : number;
        return new MachineCapture(session, station).Capture(
            RunHistory.Before(station.State().Apps, station.Records.ItemsSince(last)),
            RunHistory.Before(station.Records.Pins(), station.Records.PinsSince(last)),
            BundleVersions.Exact,
            $"{session.Host.MachineName} {(isBefore ? "before" : "after")} run {number}");
    }

    /// <summary>A run that is on record.</summary>
    /// <exception cref="ProblemException">There is no such run.</exception>
    public RecordedRun Required(long number) => station.Records.Run(number)
        ?? throw new Problem(
            ProblemCode.NothingMatched, $"there is no run {number} on record", remedy: NextCommand.Create("runs")).ToException();
}
