using AmberCrate.Core.Bundles;
using AmberCrate.Core.Comparing;
using AmberCrate.Core.Machine;
using AmberCrate.Core.Problems;
using AmberCrate.Engine.BundleFiles;
using AmberCrate.Engine.Bundling;
using AmberCrate.Engine.Host;
using AmberCrate.Engine.PastRuns;
using AmberCrate.Engine.Sessions;

namespace AmberCrate.Engine.Comparing;

/// <summary>Compares a bundle with this machine, with another bundle, or with the exports of many machines.</summary>
/// <param name="session">The session.</param>
public sealed class Compare(Session session)
{
    /// <summary>Compares, and returns all differences.</summary>
    /// <param name="request">What is to be compared.</param>
    /// <param name="cancel">Cancels the operation.</param>
    /// <exception cref="ProblemException">A bundle is not there or has faults.</exception>
    public Task<CompareResult> RunAsync(CompareRequest request, CancellationToken cancel) =>
        session.ReportAsync(progress => CompareAsync(request, progress, cancel));

    private async Task<CompareResult> CompareAsync(CompareRequest request, WorkProgress progress, CancellationToken cancel)
    {
        using var station = new RootOpener(session).ToRead();
        var opening = new BundleOpening(session, station.Remote, station.Catalogues);
        var wanted = request.Run is { } number
            ? SideOf($"{session.Host.MachineName} {(request.IsBefore ? "before" : "after")} run {number}",
                PastMachine.InRoot(session, station).BundleOf(number, request.IsBefore))
            : SideOf(request.Wanted!, (await opening.OpenAsync(request.Wanted!, cancel)).Flat.Bundle);
        if (request.With is { } folder && Directory.Exists(session.Host.FullPath(folder)))
            return new CompareResult(
                null, ComparedFleet.Compare(wanted, MachinesIn(session.Host.FullPath(folder), progress, cancel)), session.Now);
        var there = request.With is { } other
            ? SideOf(other, (await opening.OpenAsync(other, cancel)).Flat.Bundle)
            : ThisMachine(station.Apps.ReadWithRealVersions(cancel));
        return new CompareResult(Comparison.Compare(wanted, there), null, session.Now);
    }

    private ComparedSide ThisMachine(MachineState machine) => new(
        session.Host.MachineName,
        [.. machine.Apps.Select(app => ComparedApp.FromInstalled(
            machine.WithRealVersion(app), machine.Pins.Find(app.Id), machine.Damage(app)?.Words))]);

    private static ComparedSide SideOf(string name, Bundle bundle) =>
        new(name, [.. bundle.Apps.Select(ComparedApp.FromBundle)]) { Date = bundle.Captured?.Date };

    /// <summary>The exports in a folder, each the bundle of one machine.</summary>
    /// <exception cref="ProblemException">There is none.</exception>
    private static List<ComparedSide> MachinesIn(string folder, WorkProgress progress, CancellationToken cancel) =>
    [
        .. new ExportFolder(folder).Read(progress, cancel).Select(export => export.Bundle is { } bundle
            ? SideOf(bundle.Title ?? bundle.Captured?.On ?? export.Name, bundle)
            : new ComparedSide(export.Name, []) { Fault = export.Fault }),
    ];
}
