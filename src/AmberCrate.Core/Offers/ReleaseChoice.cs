using AmberCrate.Core.Cards;
using AmberCrate.Core.Machine;
using AmberCrate.Core.Pins;
using AmberCrate.Core.Problems;
using AmberCrate.Core.Values;
using AmberCrate.Core.Versions;

namespace AmberCrate.Core.Offers;

/// <summary>A release together with the catalogue and the files that deliver it on a machine.</summary>
/// <param name="Offer">Where it comes from.</param>
/// <param name="Release">The release.</param>
/// <param name="Delivery">The files for the machine.</param>
public sealed record ReleaseChoice(Offer Offer, Release Release, Delivery Delivery)
{
    /// <summary>Where everything goes that the release places outside the shelf.</summary>
    public IReadOnlyList<(PlaceKind Kind, string Name, InsidePath? Source)> Places =>
        PlacementList.Places(Offer.Card.Id, Offer.Card.PlacementOf(Release));

    /// <summary>The newest fitting release of the first catalogue that has one; null where none has.</summary>
    /// <param name="offers">The offers, in order of preference.</param>
    /// <param name="selector">What is accepted; null for the usual line.</param>
    /// <param name="machine">The machine's platform.</param>
    /// <param name="pin">A pin that must accept it too; null for none.</param>
    public static ReleaseChoice? Find(
        IEnumerable<Offer> offers, VersionSelector? selector, Platform machine, Pin? pin = null)
    {
        foreach (var offer in offers)
        {
            if (offer.Card.ReleasesFor(machine, selector)
                .FirstOrDefault(release => pin?.Selector.Accepts(release.Version, release.Line) != false) is { } release)
                return new ReleaseChoice(offer, release, release.DeliveryFor(machine)!);
        }

        return null;
    }

    /// <summary>As <see cref="Find"/>, with a problem that lists what is offered instead where nothing fits.</summary>
    /// <exception cref="ProblemException">Nothing fits.</exception>
    /// <exception cref="ProblemException">The preferred catalogue has nothing of it for this machine, and another one has an app
    /// of that id, which the user has to choose.</exception>
    public static ReleaseChoice Require(IReadOnlyList<Offer> offers, VersionSelector? selector, Platform machine)
    {
        var choice = Find(offers, selector, machine) ?? throw NothingFits(offers, selector, machine).ToException();
        var first = offers[0];
        if (ReferenceEquals(choice.Offer, first)
            || first.Card.Releases.Any(release => release.DeliveryFor(machine) is not null)) return choice;
        var (id, other) = (first.Card.Id, choice.Offer.Catalogue);
        throw new Problem(
            ProblemCode.Ambiguous,
                $"{id} of {first.Catalogue} has no release for this machine; {other} has an app of the same id",
            "it may be another app", $"{NextCommand.Create("install", $"{other}:{id}")}, if that is the one").ToException();
    }

    /// <summary>Says that a release has been withdrawn and is not installed any more.</summary>
    public static Problem Withdrawn(Offer offer, Release release) => new(
        ProblemCode.NothingMatched, $"{offer.Catalogue} has withdrawn {offer.Card.Id} {release.Version}", release.Withdrawn!);

    /// <summary>
    /// The newest release that a selector accepts and that has been withdrawn; null for none. It tells why nothing fits.
    /// </summary>
    public static (Offer Offer, Release Release)? FindWithdrawn(
        IEnumerable<Offer> offers, VersionSelector? selector, Platform machine)
    {
        foreach (var offer in offers)
        {
            if (offer.Card.Releases.FirstOrDefault(release => release.Withdrawn is not null && release.RunsOn(machine)
                && selector?.Accepts(release.Version, release.Line) != false) is { } release) return (offer, release);
        }

        return null;
    }

    private static Problem NothingFits(IReadOnlyList<Offer> offers, VersionSelector? selector, Platform machine)
    {
        var id = offers[0].Card.Id;
        var offered = offers
            .SelectMany(offer => offer.Card.Releases.Select(release => (offer, release)))
            .Where(pair => pair.release.DeliveryFor(machine) is not null)
            .Select(
                pair =>
                    $"{pair.offer.Catalogue}:{id}@{pair.release.Version}  {pair.release.Line}, {pair.release.Date:yyyy-MM-dd}")
            .Take(8)
            .ToList();
        if (FindWithdrawn(offers, selector, machine) is var (from, withdrawn))
            return Withdrawn(from, withdrawn) with
            {
                Remedy = offered.Count > 0 ? "available releases, newest first:" : Advice.None,
                Details = [.. offered],
            };
        return offered.Count == 0
            ? new Problem(
                ProblemCode.NothingMatched, $"{id} has no release for this machine",
                $"the machine is {machine}; the catalogue offers {Platforms(offers)}")
            : new Problem(
                ProblemCode.NothingMatched, $"{id} has no release that fits @{selector}",
                remedy: "available releases, newest first:")
            { Details = [.. offered] };
    }

    private static string Platforms(IEnumerable<Offer> offers) => string.Join(", ", offers
        .SelectMany(offer => offer.Card.Releases)
        .SelectMany(release => release.Artifacts)
        .Select(artifact => artifact.Platform.ToString())
        .Distinct());
}
