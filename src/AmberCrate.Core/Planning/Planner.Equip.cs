using AmberCrate.Core.Bundles;
using AmberCrate.Core.Due;
using AmberCrate.Core.Machine;
using AmberCrate.Core.Offers;
using AmberCrate.Core.Pins;
using AmberCrate.Core.Plans;
using AmberCrate.Core.Problems;
using AmberCrate.Core.Solving;
using AmberCrate.Core.Values;
using AmberCrate.Core.Versions;

namespace AmberCrate.Core.Planning;

/// <content>Equips machines from bundles.</content>
public sealed partial class Planner
{
    /// <summary>
    /// Plans to make a machine hold what a bundle lists, in the bundle's order. What is not available is an item too.
    /// </summary>
    /// <param name="bundle">The bundle.</param>
    /// <param name="uninstallsOthers">Whether chosen apps that it does not list are uninstalled, unless one that stays needs
    /// them.</param>
    /// <param name="upgrades">Whether installed apps move forward that it lists without a version.</param>
    public Plan Equip(Bundle bundle, bool uninstallsOthers, bool upgrades = false)
    {
        var upgraded = upgrades ? WithoutVersion(bundle) : [];
        if (!uninstallsOthers) return Equip(bundle, upgraded);
        var listed = bundle.Apps.Select(IdOf).ToHashSet(StringComparer.Ordinal);
        var staying = listed.ToHashSet(StringComparer.Ordinal);
        Plan plan;
        List<InstalledApp> others;
        while (true)
        {
            others = [.. machine.Apps.Where(app => !app.IsDependency && !staying.Contains(app.Id.Text))];
            plan = new Planner(machine.With(machine.Apps.Except(others)), offers) { CanRun = CanRun }
                .Equip(bundle, [.. upgraded.Except(others)]);
            var more = NeededBy(staying, others, plan);
            if (others.TrueForAll(other => !more.Contains(other.Id.Text))) break;
            staying.UnionWith(more);
        }

        // What was only needed by versions that the plan replaces goes too.
        var needed = NeededBy(listed, [], plan);
        others = [.. machine.Apps.Where(
            app => !app.IsDependency && !listed.Contains(app.Id.Text) && !needed.Contains(app.Id.Text))];
        if (others.Count == 0) return plan;
        // What the new versions do not need any more can go, but only once they are there.
        var removal = new UninstallPlanner(machine.With(AfterPlan.Apps(machine, plan))).Plan(others, new UninstallRequest());
        var gone = removal.Items.Select(item => item.Id).ToHashSet(StringComparer.Ordinal);
        var atLast = machine.Apps.Where(app => !gone.Contains(app.Id.Text)).SelectMany(app => app.Needs)
            .Select(need => need.Id.Text).ToHashSet(StringComparer.Ordinal);
        return plan with
        {
            Items =
            [
                .. removal.Items.Where(item => !atLast.Contains(item.Id)),
                .. plan.Items.Where(item => !gone.Contains(item.Id)),
                .. removal.Items.Where(item => atLast.Contains(item.Id)),
            ],
        };
    }

    /// <summary>
    /// The installed apps that a bundle lists without a version and that follow what it says: equipping leaves them where they
    /// are, unless they are upgraded too.
    /// </summary>
    public IReadOnlyList<InstalledApp> WithoutVersion(Bundle bundle) =>
    [
        .. bundle.Apps.Where(entry => entry.Version is null)
            .Select(entry => (entry.Reference, App: AppId.TryParse(IdOf(entry), out var id) ? machine.Find(id) : null))
            .Where(one => one.App is not null
                && (one.Reference.Selector is null || Equals(one.Reference.Selector, one.App.Follows)))
            .Select(one => one.App!).Distinct(),
    ];

    /// <summary>The ids of what apps that stay need, or new ones that come in for them.</summary>
    private HashSet<string> NeededBy(HashSet<string> staying, List<InstalledApp> others, Plan plan)
    {
        var leaving = others.Select(app => app.Id.Text).ToHashSet(StringComparer.Ordinal);
        var after = AfterPlan.Apps(
            machine, plan with { Items = [.. plan.Items.Where(item => !leaving.Contains(item.Id))] });
        var apps = after.ToDictionary(app => app.Id.Text, StringComparer.Ordinal);
        var needed = new HashSet<string>(StringComparer.Ordinal);
        for (var count = -1; count < needed.Count;)
        {
            // What comes in for one that comes in is needed too. For an app that is there, its own version says what it needs.
            count = needed.Count;
            needed.UnionWith(plan.Items.Where(item => item.NeededBy.Any(
                by => staying.Contains(by) || (needed.Contains(by) && !leaving.Contains(by)))).Select(item => item.Id).ToList());
        }

        var open = new Stack<InstalledApp>(
            after.Where(app => app.IsDependency || staying.Contains(app.Id.Text) || needed.Contains(app.Id.Text)));
        while (open.TryPop(out var app))
        {
            foreach (var need in app.Needs)
            {
                if (needed.Add(need.Id.Text) && apps.TryGetValue(need.Id.Text, out var there)) open.Push(there);
            }
        }

        return needed;
    }

    /// <summary>The id of the app that an entry means; what it is called where that is not known.</summary>
    private string IdOf(BundleApp app)
    {
        try
        {
            var (installed, found) = NameResolver.Meant(app.Reference, offers, machine);
            return (installed?.Id ?? found[0].Card.Id).Text;
        }
        catch (ProblemException)
        {
            return app.Reference.Name;
        }
    }

    /// <summary>
    /// Plans to make a machine hold what a bundle lists, in the bundle's order. What is not available is an item too.
    /// </summary>
    /// <param name="bundle">The bundle.</param>
    /// <param name="upgraded">Installed apps to bring up to date as well, so that both fit together.</param>
    public Plan Equip(Bundle bundle, params IReadOnlyCollection<InstalledApp> upgraded)
    {
        var pins = bundle.Apps.Select(app => app.Pin).OfType<Pin>()
            .Where(pin => !pin.SaysTheSameAs(machine.Pins.Find(pin.App)))
            .ToList();
        var platforms = bundle.Apps.Where(app => app.Platform is not null && app.Reference.Id is not null)
            .DistinctBy(app => app.Reference.Name)
            .ToDictionary(app => app.Reference.Id!, app => app.Platform!);
        var wanted = machine.With(machine.Pins.With(pins)).With(platforms);
        var plan = new Planner(wanted, offers) { CanRun = CanRun }.EquipPinned(bundle, upgraded);
        return plan with { Pins = [.. pins.Select(pin => new PlannedPin(pin.App, machine.Pins.Find(pin.App), pin))] };
    }

    private Plan EquipPinned(Bundle bundle, IEnumerable<InstalledApp> upgraded)
    {
        offers.Expect(
            bundle.Apps.Select(app => app.Reference.Id is { } id ? id : null).OfType<AppId>(),
            everyRelease: false);
        var requests = bundle.Apps.Select(entry => (Entry: entry, Request: EquipOne(entry))).ToList();
        var plan = Planned(upgraded.Select(app => UpgradeOne(DueEntry.Compare(app, offers, machine), isNamed: true))
            .Concat(requests.Select(one => one.Request)).DistinctBy(IdOf));
        var entries = requests.DistinctBy(one => IdOf(one.Request))
            .ToDictionary(one => IdOf(one.Request), one => one.Entry, StringComparer.Ordinal);
        return new Plan([.. plan.Items.Select(item => AsAsked(item, entries.GetValueOrDefault(item.Id))).Select(item => item with
        {
            InstallerArguments = item.RunsInstaller
                && entries.GetValueOrDefault(item.Id)?.InstallerArguments is { Count: > 0 } arguments
                    ? arguments
                    : item.InstallerArguments,
            Platform = item is { Fetches: true, App: { } id }
                ? machine.ChosenPlatforms.GetValueOrDefault(id) ?? item.Platform
                : item.Platform,
        })]);
    }

    private static string IdOf((PlanItem? Item, Goal? Goal) request) => request.Item?.Id ?? request.Goal!.Id.Text;

    /// <summary>
    /// An item as its entry states it: a dependency or not, also where the app is only upgraded. An entry that could not be
    /// had by itself may come in because others need it: if that version will do for the entry, the entry is met.
    /// </summary>
    private static PlanItem AsAsked(PlanItem item, BundleApp? entry)
    {
        if (entry is null || item.Action == PlanAction.Cannot) return item;
        if (item.NeededBy.Count > 0)
        {
            if (item.Notes.All(note => note.Problem is null) || !IsMetBy(entry, item)) return item;
            item = item with { Follows = entry.Reference.Selector, Notes = [.. item.Notes.Where(note => note.Problem is null)] };
        }

        var isDependency = IsDependency(entry, item.Installed);
        if (item.Changes) return item with { IsDependency = isDependency };
        return item.Installed!.IsDependency == isDependency ? item : item with
        {
            Action = PlanAction.Remember,
            IsDependency = isDependency,
            Notes = [PlanNote.ChosenFromNow(), .. item.Notes],
        };
    }

    private static bool IsMetBy(BundleApp entry, PlanItem item) =>
        (entry.Version is null || entry.Version == item.To)
        && (entry.Sha256 is null || entry.Sha256 == (item.DeliveryDigest ?? item.Installed?.Sha256))
        && (item.Release is not { } release || entry.Reference.Selector?.Accepts(release.Version, release.Line) != false);

    /// <summary>Whether an app is a dependency when its entry is met. One that the user has chosen here stays chosen.</summary>
    private static bool IsDependency(BundleApp entry, InstalledApp? installed) =>
        entry.IsDependency && installed?.IsDependency != false;

    private (PlanItem? Item, Goal? Goal) EquipOne(BundleApp wanted)
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
                    return (null, InstalledGoal(
                        installed, wanted.Version is null ? found : [], selector, asked, willDo: true, isFirm: false) with
                    {
                        Make = chosen => chosen.Choice is { } other
                            ? PlanItem.Changing(installed, other, asked)
                            : Kept(installed, asked, found, IsDependency(wanted, installed)),
                    });
            }

            if (installed is not null && found.Count == 0) throw NotToBeHad(installed, selector!).ToException();
            var best = Best(found, selector);
            return (null, installed is null
                ? NewGoal(found, best, selector, asked, isFirm: false)
                : InstalledGoal(installed, found, selector, asked, willDo: false, isFirm: false));
        }
        catch (ProblemException refused)
        {
            return (cannot with { Notes = [PlanNote.Refused(refused.Problem)] }, null);
        }
    }

    /// <summary>The request for exactly the file that a sealed entry names.</summary>
    /// <exception cref="ProblemException">It is neither there nor offered.</exception>
    private Goal SealedOne(BundleApp wanted, InstalledApp? installed, IReadOnlyList<Offer> found)
    {
        var (asked, version, digest) = (wanted.Reference.Selector, wanted.Version!, wanted.Sha256!);
        if (installed is not null && installed.Version == version && installed.Sha256 == digest)
            return InstalledGoal(installed, [], asked, asked, willDo: true, isFirm: false) with
            {
                Make = _ => Kept(installed, asked, found, IsDependency(wanted, installed)),
            };
        if (found.Count == 0)
            throw (offers.Find(installed!.Id) is [var other, ..]
                ? CatalogueChange.Refusal(installed, other.Catalogue)
                : NotToBeHad(installed, new VersionSelector.Exactly(version))).ToException();
        var releases = found.SelectMany(offer => offer.Card.Releases.Where(release => release.Version == version)
            .SelectMany(release => release.Deliveries.Select(delivery => new ReleaseChoice(offer, release, delivery)))).ToList();
        var choice = releases.Find(one => one.Delivery.Sha256 == digest)
            ?? throw NotAsSealed(found, version, releases.Count > 0).ToException();
        if (choice.Release.Withdrawn is not null)
            throw ReleaseChoice.Withdrawn(choice.Offer, choice.Release).ToException();
        if (machine.Pins.InForce(choice.Offer.Card.Id) is { } pin && !pin.Selector.Accepts(version, choice.Release.Line))
            throw Pinned(choice.Offer.Card.Id, version, pin).ToException();
        if (!choice.Delivery.Platform.RunsOn(machine.PlatformOf(choice.Offer.Card.Id))) throw OtherPlatform(choice).ToException();
        var (best, rest) = (new Candidate(choice, null), installed is null ? Candidate.Absent : new Candidate(null, installed));
        return new Goal(
            choice.Offer.Card.Id, best, new Lazy<GoalStates>(new GoalStates([best, rest], ValueSet.One(0))), IsFirm: false, asked,
            chosen => chosen.Choice is { } taken
                ? PlanItem.Changing(installed, taken, asked)
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
        $"{choice.Offer.Card.Id} {choice.Release.Version} was sealed for another platform, {choice.Delivery.Platform}");
}
