using AmberCrate.Core.Due;
using AmberCrate.Core.Machine;
using AmberCrate.Core.Offers;
using AmberCrate.Core.Planning;
using AmberCrate.Core.Problems;
using AmberCrate.Core.Values;
using AmberCrate.Core.Versions;
using AmberCrate.Engine.Observing;
using AmberCrate.Engine.Sessions;

namespace AmberCrate.Engine.Searching;

/// <summary>Tells everything that is known about apps. A user's own catalogues come first, then those for all users.</summary>
/// <param name="session">The session.</param>
public sealed class About(Session session)
{
    /// <summary>Assesses the named apps.</summary>
    /// <param name="references">The apps; a selector picks the release to look at.</param>
    /// <param name="cancel">Cancels the operation.</param>
    /// <param name="language">The language to tell it in; null for that of the environment.</param>
    /// <exception cref="ProblemException">A name fits no app, or several.</exception>
    public async Task<AboutResult> RunAsync(
        IReadOnlyList<AppReference> references, CancellationToken cancel, string? language = null)
    {
        var opening = new RootOpener(session);
        using var own = await opening.ToReadFreshAsync(cancel);
        using var other = opening.OtherCatalogues(own);
        var here = new SystemPackageOverlap(session);
        var (mine, everyones) = (Sight.Open(own), other is null ? null : Sight.Open(other));
        List<AboutApp> apps = [.. references.Select(reference =>
            everyones is not null && !mine.Knows(reference) && everyones.Knows(reference)
                ? Told(reference, everyones, installedElsewhere: _ => null, elsewhere: null)
                : Told(reference, mine, own.Other.Find, everyones))];
        var freshness = own.Catalogues.Freshness();
        return new AboutResult(
            apps, other is null ? freshness : freshness.With(other.Catalogues.Freshness()), mine.Machine.Platform, own.Layout,
            own.Other.Layout, own.Other.FirstOnPath(own.Layout, session.Host.SearchPath))
        {
            Languages = session.Host.Languages(language),
        };

        AboutApp Told(AppReference reference, Sight sight, Func<AppId, InstalledApp?> installedElsewhere, Sight? elsewhere)
        {
            var assessment = AppAssessment.Assess(reference, sight.Offers, sight.Machine);
            var orphaned =
                assessment.Offer is null ? CatalogueStatus.Words(assessment.Installed!.Catalogue, sight.Offers) : "";
            var system = StateOf(assessment.Choice, own.Placing.System);
            return new AboutApp(
                assessment, sight.Scope, installedElsewhere(assessment.Id), orphaned,
                system?.Lacks.Count > 0 ? null
                : sight.Scope == own.Layout.Scope ? assessment.Next : assessment.Next?.ForAllUsers())
            {
                Pin = sight.Machine.Pins.Find(assessment.Id),
                System = system,
                AlsoHere = assessment.Offer is { } judged ? here.Find(judged.Card) : [],
                Elsewhere = assessment.Offer is { } offer && elsewhere is not null
                    ? [.. elsewhere.Offers.Find(offer.Card.Id)
                        .Select(its => OtherOffer.Compare(its, offer, assessment.Choice, sight.Machine.Platform))]
                    : [],
            };
        }
    }

    private static SystemState? StateOf(ReleaseChoice? choice, SystemCheck system)
    {
        if (choice?.Offer.Card.RequirementsOf(choice.Release) is not { } required) return null;
        var lacks = system.FindLacks(required, choice.Delivery.Platform);
        return new SystemState(required, lacks, system.ComposeInstallLine(lacks));
    }

    /// <summary>What is looked at of one scope: read once, however many apps are named.</summary>
    private sealed record Sight(InstallScope Scope, IOffers Offers, MachineState Machine)
    {
        public static Sight Open(OpenRoot station) => new(station.Layout.Scope, station.Catalogues.Offers(), station.Apps.Read());

        public bool Knows(AppReference reference) => NameResolver.Knows(reference, Offers, Machine);
    }
}
