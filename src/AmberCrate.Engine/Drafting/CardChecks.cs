using AmberCrate.Core.Cards;
using AmberCrate.Core.Machine;
using AmberCrate.Core.Offers;
using AmberCrate.Core.Planning;
using AmberCrate.Core.Plans;
using AmberCrate.Core.Requirements;
using AmberCrate.Core.Values;
using AmberCrate.Core.Versions;

namespace AmberCrate.Engine.Drafting;

/// <summary>Checks of cards that were read, which need no artifact: what they need of each other, licences.</summary>
/// <param name="cards">All cards of the folder, each with its file and the text's tables.</param>
internal sealed class CardChecks(IReadOnlyList<CheckedCard> cards)
{
    private static readonly CatalogueName Own = CatalogueName.Parse("this-catalogue");

    private readonly Dictionary<AppId, CheckedCard> _byId = cards.DistinctBy(card => card.Card.Id)
        .ToDictionary(card => card.Card.Id);

    private readonly CardOffers _offers = new([.. cards.DistinctBy(card => card.Card.Id)
        .Select(card => new Offer(Own, new Uri("file:///"), card.Card))]);

    /// <summary>The faults of one of the cards.</summary>
    public IEnumerable<CardFinding> Check(CheckedCard card) =>
        [.. Licences(card), .. Needs(card), .. Circles(card), .. Plans(card), .. Proposals(card)];

    private static IEnumerable<CardFinding> Licences(CheckedCard card)
    {
        if (card.Card.Licence is not { } licence) yield break;
        foreach (var unknown in SpdxLicences.UnknownIn(licence))
        {
            var hint = SpdxLicences.Nearest(unknown) is { } near ? $"; did you mean {near}?" : "";
            yield return card.Finding("project_license", $"{unknown} is not on the SPDX licence list{hint}", isFault: false);
        }
    }

    private IEnumerable<CardFinding> Needs(CheckedCard card)
    {
        var own = card.Card;
        foreach (var (key, need) in own.Needs.Select(need => ("needs", need)).Concat(own.Releases.SelectMany(
            (release, at) => (release.Needs ?? []).Select(need => ($"releases[{at + 1}].needs", need)))))
        {
            if (need.Id == own.Id) yield return card.Finding(key, "it needs itself", isFault: true);
            else if (!_byId.TryGetValue(need.Id, out var other))
                yield return card.Finding(
                    key, $"{need} is not in this catalogue: it can be installed only where another catalogue offers it",
                    isFault: false);
            else if (need.Selector is { } selector
                && !other.Card.Releases.Any(release => selector.Accepts(release.Version, release.Line)))
                yield return card.Finding(key, $"no release of {need.Id} fits {need}", isFault: true);
        }
    }

    /// <summary>Packages that a card expects of the system, and that another app of the folder is.</summary>
    private IEnumerable<CardFinding> Proposals(CheckedCard card)
    {
        var own = card.Card;
        var needed = own.Needs.Concat(own.Releases.SelectMany(release => release.Needs ?? []))
            .Select(need => need.Id).ToHashSet();
        var expected = (own.Requirements ?? []).Concat(own.Releases.SelectMany(release => release.Requirements ?? []))
            .Where(requirement => requirement.Kind == RequirementKind.Package)
            .SelectMany(requirement => requirement.Deb.Select(package => package.Name)).Distinct();
        return from name in expected
               let other = cards.FirstOrDefault(one => one.Card.Id != own.Id && one.Card.SystemPackages.Contains(name))
               where other is not null && !needed.Contains(other.Card.Id)
               select card.Finding(
                   "system", $"the package {name} is the app {other.Card.Id} of this folder: does this app need it, "
                       + $"as needs = [\"{other.Card.Id}\"]?", isFault: false);
    }

    private IEnumerable<CardFinding> Circles(CheckedCard card)
    {
        var (path, seen) = (new List<AppId>(), new HashSet<AppId>());
        if (!Leads(card.Card.Id)) yield break;
        yield return card.Finding(
            "needs", $"it needs itself in the end: {string.Join(" needs ", path.Append(card.Card.Id))}", isFault: true);

        bool Leads(AppId id)
        {
            path.Add(id);
            foreach (var need in _byId.GetValueOrDefault(id)?.Card.Needs ?? [])
            {
                if (need.Id == card.Card.Id && path.Count > 1) return true;
                if (need.Id != card.Card.Id && seen.Add(need.Id) && Leads(need.Id)) return true;
            }

            path.RemoveAt(path.Count - 1);
            return false;
        }
    }

    /// <summary>Whether every release can be planned on each platform that it has a file for.</summary>
    private IEnumerable<CardFinding> Plans(CheckedCard card)
    {
        var related = card.Card.Needs.Concat(card.Card.Releases.SelectMany(release => release.Needs ?? [])).ToList();

        // What needs nothing can always be planned.
        if (related.Count == 0 || related.Exists(need => !_byId.ContainsKey(need.Id))) yield break;
        for (var at = 0; at < card.Card.Releases.Count; at++)
        {
            var release = card.Card.Releases[at];
            if (release.Withdrawn is not null) continue;
            foreach (var platform in release.Artifacts.Select(artifact => Machine(artifact.Platform)).Distinct())
            {
                var entry = new Core.Bundles.BundleApp(
                    new AppReference(null, card.Card.Id.Text, VersionSelector.Parse(release.Version.Text)), null);
                var items = new Planner(new MachineState(platform, []), _offers)
                    .Equip(new Core.Bundles.Bundle { Apps = [entry] }).Items;
                if (items.FirstOrDefault(item => item.Action == PlanAction.Cannot) is { } refused)
                    yield return card.Finding(
                        $"releases[{at + 1}]", $"{release.Version} cannot be installed on {platform}: {refused.Note}",
                        isFault: true);
            }
        }
    }

    /// <summary>A machine on which an artifact runs.</summary>
    private static Platform Machine(Platform platform) =>
        Platform.Parse(platform.ToString().StartsWith("any-", StringComparison.Ordinal)
            ? "x86_64-linux-gnu"
            : $"{platform.ToString().Split('-')[0]}-linux-gnu");
}
