using AmberCrate.Core.Bundles;
using AmberCrate.Core.Planning;
using AmberCrate.Core.Problems;
using AmberCrate.Engine.Bundles;

namespace AmberCrate.Engine.Operations;

/// <summary>Writes a machine down as a bundle.</summary>
/// <param name="session">The session.</param>
public sealed class Export(Session session)
{
    /// <summary>Does it.</summary>
    /// <param name="request">How.</param>
    /// <exception cref="ProblemException">The machine cannot be read, or the file cannot be written.</exception>
    public ExportResult Run(ExportRequest request)
    {
        using var station = new Opening(session).ToRead();
        var capture = new BundleCapture(
            session.Host.MachineName, station.Today);
        var offers = station.Offers();
        foreach (var entry in DueEntry.All(station.State(), offers).Where(entry => entry.State == DueState.NotOffered))
            session.Note(
                $"{entry.App.Id} is in the bundle, and equip may not find it: "
                    + $"{CatalogueStatus.Words(entry.App.Catalogue, offers)}");
        var (bundle, notCarried) = BundleCapturing.Capture(
            station.State().Apps, station.BundleCatalogues(), capture, request.WithVersions, request.Title,
            station.Records.Pins());
        if (request.File is null) return new ExportResult(bundle, null, [], notCarried);
        var (path, notHere) = BundleFile.Write(request.File, bundle, request.IsUpdate);
        return new ExportResult(bundle, path, notHere, notCarried);
    }
}
