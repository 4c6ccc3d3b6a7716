using AmberCrate.Core.Planning;
using AmberCrate.Core.Problems;
using AmberCrate.Core.Versions;

namespace AmberCrate.Engine.Operations;

/// <summary>Tells everything that is known about apps.</summary>
/// <param name="session">The session.</param>
public sealed class About(Session session)
{
    /// <summary>Does it.</summary>
    /// <param name="references">The apps; a selector picks the release to look at.</param>
    /// <param name="cancel">Stops.</param>
    /// <exception cref="ProblemException">A name fits no app, or several.</exception>
    public async Task<AboutResult> RunAsync(IReadOnlyList<AppReference> references, CancellationToken cancel)
    {
        using var station = await new Opening(session).ToReadFreshAsync(cancel);
        var (offers, machine) = (station.Offers(), station.State());
        List<AboutApp> apps = [.. references.Select(reference =>
        {
            var assessment = AppAssessment.Of(reference, offers, machine);
            var orphaned = assessment.Offer is null ? CatalogueStatus.Words(assessment.Installed!.Catalogue, offers) : "";
            return new AboutApp(assessment, station.Other.Find(assessment.Id.Text), orphaned);
        })];
        return new AboutResult(
            apps, station.Freshness(), machine.Platform, station.Layout, station.Other.Layout,
            station.Other.FirstOnPath(station.Layout, session.Host.SearchPath));
    }
}
