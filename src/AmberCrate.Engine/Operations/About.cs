using AmberCrate.Core.Planning;
using AmberCrate.Core.Problems;
using AmberCrate.Core.Values;
using AmberCrate.Core.Versions;

namespace AmberCrate.Engine.Operations;

/// <summary>Tells everything that is known about apps. A person's own catalogues come first, then those for all users.</summary>
/// <param name="session">The session.</param>
public sealed class About(Session session)
{
    /// <summary>Does it.</summary>
    /// <param name="references">The apps; a selector picks the release to look at.</param>
    /// <param name="cancel">Stops.</param>
    /// <exception cref="ProblemException">A name fits no app, or several.</exception>
    public async Task<AboutResult> RunAsync(IReadOnlyList<AppReference> references, CancellationToken cancel)
    {
        var opening = new Opening(session);
        using var own = await opening.ToReadFreshAsync(cancel);
        using var other = opening.OtherCatalogues(own);
        List<AboutApp> apps = [.. references.Select(
            reference => other is not null && !Knows(own, reference) && Knows(other, reference)
                ? OfAllUsers(reference, other)
                : Own(reference, own, other))];
        return new AboutResult(
            apps, other is null ? own.Freshness() : own.Freshness().With(other.Freshness()), own.State().Platform, own.Layout,
            own.Other.Layout, own.Other.FirstOnPath(own.Layout, session.Host.SearchPath));
    }

    private static AboutApp Own(AppReference reference, Workstation own, Workstation? other)
    {
        var (offers, machine) = (own.Offers(), own.State());
        var assessment = AppAssessment.Of(reference, offers, machine);
        var orphaned = assessment.Offer is null ? CatalogueStatus.Words(assessment.Installed!.Catalogue, offers) : "";
        return new AboutApp(assessment, own.Layout.Scope, own.Other.Find(assessment.Id.Text), orphaned, assessment.Next)
        {
            Elsewhere = assessment.Offer is { } offer && other is not null
                ? [.. other.Offers().Find(offer.Card.Id)
                    .Select(its => OtherOffer.Of(its, offer, assessment.Choice, machine.Platform))]
                : [],
        };
    }

    private static AboutApp OfAllUsers(AppReference reference, Workstation other)
    {
        var (offers, machine) = (other.Offers(), other.State());
        var assessment = AppAssessment.Of(reference, offers, machine);
        var orphaned = assessment.Offer is null ? CatalogueStatus.Words(assessment.Installed!.Catalogue, offers) : "";
        return new AboutApp(assessment, InstallScope.AllUsers, null, orphaned, assessment.Next?.ForAllUsers());
    }

    private static bool Knows(Workstation station, AppReference reference) =>
        NameResolver.Knows(reference, station.Offers(), station.State());
}
