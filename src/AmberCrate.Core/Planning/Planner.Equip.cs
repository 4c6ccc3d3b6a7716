using AmberCrate.Core.Bundles;
using AmberCrate.Core.Machine;
using AmberCrate.Core.Pins;
using AmberCrate.Core.Problems;
using AmberCrate.Core.Solving;
using AmberCrate.Core.Values;
using AmberCrate.Core.Versions;

namespace AmberCrate.Core.Planning;

/// <content>Equips machines from bundles.</content>
public sealed partial class Planner
{
    /// <summary>
    /// Plans making a machine hold what a bundle lists, in the bundle's order. What is not available is an item too.
    /// </summary>
    /// <param name="bundle">The bundle.</param>
    /// <param name="uninstallsOthers">Whether chosen apps that it does not list are uninstalled, unless one that stays needs
    /// them.</param>
    public Plan Equip(Bundle bundle, bool uninstallsOthers)
    {
        var plan = Equip(bundle);
        if (!uninstallsOthers) return plan;
        var (staying, others) = (new HashSet<string>(StringComparer.Ordinal), new List<InstalledApp>());
        while (true)
        {
            staying.UnionWith(plan.Items.Select(item => item.Id));
            others = [.. machine.Apps.Where(app => !app.IsDependency && !staying.Contains(app.Id.Text))];
            var without = machine.With(machine.Apps.Except(others));
            plan = new Planner(without, offers) { CanRun = CanRun }.Equip(bundle);

            // What comes in again as a dependency is there already, and stays.
            if (plan.Items.All(item => others.TrueForAll(other => other.Id.Text != item.Id))) break;
        }

        if (others.Count == 0) return plan;
        var removal = new UninstallPlanner(machine).Plan(others, new UninstallWish());
        return plan with { Items = [.. removal.Items, .. plan.Items] };
    }

    /// <summary>
    /// Plans making a machine hold what a bundle lists, in the bundle's order. What is not available is an item too.
    /// </summary>
    public Plan Equip(Bundle bundle)
    {
        var pins = bundle.Apps.Select(app => app.Pin).OfType<Pin>()
            .Where(pin => !pin.SaysTheSameAs(machine.Pins.Find(pin.App)))
            .ToList();
        var platforms = bundle.Apps.Where(app => app.Platform is not null && AppId.TryParse(app.Reference.Name, out _))
            .DistinctBy(app => app.Reference.Name)
            .ToDictionary(app => AppId.Parse(app.Reference.Name), app => app.Platform!);
        var wanted = machine.With(machine.Pins.With(pins)).With(platforms);
        var plan = new Planner(wanted, offers) { CanRun = CanRun }.EquipPinned(bundle);
        return plan with { Pins = [.. pins.Select(pin => new PlannedPin(pin.App, machine.Pins.Find(pin.App), pin))] };
    }

    private Plan EquipPinned(Bundle bundle)
    {
        offers.Expect(
            bundle.Apps.Select(app => AppId.TryParse(app.Reference.Name, out var id) ? id : null).OfType<AppId>(),
            everyRelease: false);
        var plan = Planned(bundle.Apps.Select(EquipOne).DistinctBy(wish => wish.Item?.Id ?? wish.Aim!.Id.Text));
        var given = bundle.Apps.Where(app => app.InstallerArguments.Count > 0)
            .ToLookup(app => app.Reference.Name, app => app.InstallerArguments, StringComparer.Ordinal);
        return new Plan([.. plan.Items.Select(item => item with
        {
            InstallerArguments = item.RunsInstaller && given[item.Id].FirstOrDefault() is { } arguments
                ? arguments
                : item.InstallerArguments,
            Platform = item.Fetches && AppId.TryParse(item.Id, out var id)
                ? machine.ChosenPlatforms.GetValueOrDefault(id) ?? item.Platform
                : item.Platform,
        })]);
    }

    private (PlanItem? Item, Aim? Aim) EquipOne(BundleApp wanted)
    {
        var cannot = new PlanItem { Id = wanted.Reference.Name, Action = PlanAction.Cannot };
        try
        {
            var (installed, found) = NameResolver.Meant(wanted.Reference, offers, machine);
            cannot = cannot with { Id = (installed?.Id ?? found[0].Card.Id).Text, Installed = installed };
            if (wanted.Platform is { } platform && !CanRun(platform))
                throw new Problem(
                    ProblemCode.Refused, $"this machine cannot run programs for {platform}", $"it is {machine.Platform}",
                    "take \"platform\" out of the bundle").ToException();
            if (installed is not null) RequireItsPlatform(installed);
            if (wanted.Sha256 is not null) return (null, SealedOne(wanted, installed, found));
            var asked = wanted.Reference.Selector;
            var selector = wanted.Version is null ? asked : new VersionSelector.Exactly(wanted.Version);
            if (installed is not null)
            {
                if (wanted.Version is null
                    ? asked?.Accepts(installed.Version, installed.Line) != false
                    : installed.Version == wanted.Version)
                    return (null, InstalledAim(
                        installed, wanted.Version is null ? found : [], selector, asked, willDo: true, isFirm: false) with
                    {
                        Make = chosen => chosen.Choice is { } other
                            ? PlanItem.Changing(installed, other, asked) with { IsDependency = false }
                            : Kept(installed, asked, found),
                    });
            }

            if (installed is not null && found.Count == 0) throw NotToBeHad(installed, selector!).ToException();
            var best = Best(found, selector);
            return (null, installed is null
                ? NewAim(found, best, selector, asked, isFirm: false)
                : InstalledAim(installed, found, selector, asked, willDo: false, isFirm: false));
        }
        catch (ProblemException refused)
        {
            return (cannot with { Notes = [PlanNote.Refused(refused.Problem)] }, null);
        }
    }

    /// <summary>The wish for exactly the file that a sealed entry names.</summary>
    /// <exception cref="ProblemException">It is neither there nor offered.</exception>
    private Aim SealedOne(BundleApp wanted, InstalledApp? installed, IReadOnlyList<Offer> found)
    {
        var (asked, version, digest) = (wanted.Reference.Selector, wanted.Version!, wanted.Sha256!);
        if (installed is not null && installed.Version == version && installed.Sha256 == digest)
            return InstalledAim(installed, [], asked, asked, willDo: true, isFirm: false) with
            {
                Make = _ => Kept(installed, asked, found, wanted.IsDependency && installed.IsDependency),
            };
        if (found.Count == 0)
            throw (offers.Find(installed!.Id) is [var other, ..]
                ? CatalogueChange.Refusal(installed, other.Catalogue)
                : NotToBeHad(installed, new VersionSelector.Exactly(version))).ToException();
        var releases = found.SelectMany(offer => offer.Card.Releases.Where(release => release.Version == version)
            .SelectMany(release => release.Artifacts.Select(artifact => new ReleaseChoice(offer, release, artifact)))).ToList();
        var choice = releases.Find(one => one.Artifact.Sha256 == digest)
            ?? throw NotAsSealed(found, version, releases.Count > 0).ToException();
        if (choice.Release.Withdrawn is not null)
            throw ReleaseChoice.Withdrawn(choice.Offer, choice.Release).ToException();
        if (machine.Pins.InForce(choice.Offer.Card.Id) is { } pin && !pin.Selector.Accepts(version, choice.Release.Line))
            throw Pinned(choice.Offer.Card.Id, version, pin).ToException();
        if (!choice.Artifact.Platform.RunsOn(machine.PlatformOf(choice.Offer.Card.Id))) throw OtherPlatform(choice).ToException();
        var (best, rest) = (new Candidate(choice, null), installed is null ? Candidate.Absent : new Candidate(null, installed));
        return new Aim(
            choice.Offer.Card.Id, best, new Lazy<AimStates>(new AimStates([best, rest], ValueSet.One(0))), false, asked,
            chosen => chosen.Choice is { } taken
                ? PlanItem.Changing(installed, taken, asked) with
                {
                    IsDependency = wanted.IsDependency && installed?.IsDependency != false,
                }
                : new PlanItem { Id = choice.Offer.Card.Id.Text, Action = PlanAction.Cannot, Installed = installed });
    }

    private static Problem NotAsSealed(IReadOnlyList<Offer> found, AppVersion version, bool isVersionThere) => new(
        ProblemCode.NotVerified,
        $"{found[0].Card.Id} {version} is not available as it was sealed",
        isVersionThere
            ? $"{found[0].Catalogue} has another file for that version now"
            : $"{found[0].Catalogue} does not offer that version any more");

    private static Problem OtherPlatform(ReleaseChoice choice) => new(
        ProblemCode.NothingMatched,
        $"{choice.Offer.Card.Id} {choice.Release.Version} was sealed for another platform, {choice.Artifact.Platform}");
}
