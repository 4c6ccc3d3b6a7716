using AmberCrate.Core.Cards;
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

/// <summary>Turns requests into plans. Pure: the same machine, offers and request give the same plan.</summary>
public sealed partial class Planner(MachineState machine, IOffers offers)
{
    /// <summary>Plans what a list of references asks for. The whole list is judged before anything is refused.</summary>
    /// <exception cref="ProblemException">A reference fits nothing or several apps, two ask for different things, or there is no
    /// plan.</exception>
    /// <param name="references">The references.</param>
    /// <param name="mayMakeOlder">Whether other apps may become older if there is no other plan; the user is asked then.</param>
    public Plan Install(IEnumerable<AppReference> references, bool mayMakeOlder = true)
    {
        references = [.. references];
        offers.Expect(
            references.Select(reference => reference.Id).OfType<AppId>(),
            everyRelease: false);
        var problems = new List<Problem>();
        var goals = new OrderedDictionary<AppId, (AppReference Reference, CatalogueName? From, Goal Goal)>();
        foreach (var reference in references)
        {
            try
            {
                var (from, goal) = InstallOne(reference);
                if (!goals.TryGetValue(goal.Id, out var earlier)) goals.Add(goal.Id, (reference, from, goal));
                else if (earlier.Reference.Selector != reference.Selector || earlier.From != from)
                    problems.Add(new Problem(
                        ProblemCode.Refused,
                        $"{goal.Id} is named twice, with different versions: {earlier.Reference} and {reference}",
                        remedy: "leave one of them out"));
            }
            catch (ProblemException refused)
            {
                problems.Add(refused.Problem);
            }
        }

        if (problems.Count > 0) throw Joined(problems, "nothing has been changed").ToException();
        return new Plan(
            new RequestSolver(machine, offers, mayMakeOlder).Solve([.. goals.Values.Select(request => request.Goal)]));
    }

    /// <summary>
    /// References with the ids and catalogues of the apps that they mean; something that fits them is offered. The
    /// whole list is judged before anything is refused.
    /// </summary>
    /// <exception cref="ProblemException">A reference fits nothing or several apps.</exception>
    public IReadOnlyList<AppReference> Named(IEnumerable<AppReference> references)
    {
        var (named, problems) = (new List<AppReference>(), new List<Problem>());
        foreach (var reference in references)
        {
            try
            {
                var best = ReleaseChoice.Require(NameResolver.Offered(reference, offers), reference.Selector, machine.Platform);
                named.Add(reference with { Catalogue = best.Offer.Catalogue, Name = best.Offer.Card.Id.Text });
            }
            catch (ProblemException refused)
            {
                problems.Add(refused.Problem);
            }
        }

        return problems.Count == 0 ? named : throw Joined(problems, "nothing has been changed").ToException();
    }

    /// <summary>
    /// Plans taking installed apps off. What is protected, or needed by others, stays and says so; the others go.
    /// </summary>
    /// <param name="names">The apps.</param>
    /// <param name="request">Further options.</param>
    /// <exception cref="ProblemException">A name fits no installed app, or several.</exception>
    public Plan Uninstall(IEnumerable<string> names, UninstallRequest? request = null) =>
        new UninstallPlanner(machine).Plan(Installed(names), request ?? new UninstallRequest());

    /// <summary>Plans one app as it is chosen already, for looking at it.</summary>
    internal IReadOnlyList<PlanItem> Assess(ReleaseChoice choice) => new RequestSolver(machine, offers, mayMakeOlder: true).Solve(
        [new Goal(
            choice.Offer.Card.Id, new Candidate(choice, null),
            new Lazy<GoalStates>(new GoalStates([new Candidate(choice, null)], ValueSet.One(0))), IsFirm: true, null,
            _ => PlanItem.Changing(machine.Find(choice.Offer.Card.Id), choice, null))]);

    /// <summary>Solves the goals among the items, and leaves every item at its place.</summary>
    private Plan Planned(IEnumerable<(PlanItem? Item, Goal? Goal)> goals)
    {
        var all = goals.ToList();
        var solved = new RequestSolver(machine, offers).Solve([.. all.Select(request => request.Goal).OfType<Goal>()]);
        var places = solved.Select((item, place) => (item.Id, place))
            .ToDictionary(pair => pair.Id, pair => pair.place, StringComparer.Ordinal);
        var items = new List<PlanItem>();
        var next = 0;
        foreach (var (item, goal) in all)
        {
            if (item is not null && !places.ContainsKey(item.Id)) items.Add(item);
            while (goal is not null && next <= places[goal.Id.Text]) items.Add(solved[next++]);
        }

        // What was requested and cannot be had may come in all the same, in another version, because others need it.
        var unmet = all.Select(request => request.Item).Where(item => item?.Action == PlanAction.Cannot)
            .ToDictionary(item => item!.Id, item => item!.Notes, StringComparer.Ordinal);
        return new Plan(
        [
            .. items.Concat(solved.Skip(next)).Select(item =>
                item.Action != PlanAction.Cannot && unmet.TryGetValue(item.Id, out var notes)
                    ? item with { Notes = [.. item.Notes, .. notes] }
                    : item),
        ]);
    }

    private void RequireItsPlatform(InstalledApp installed)
    {
        var its = installed.Platform ?? machine.Platform;
        if (machine.ChosenPlatforms.GetValueOrDefault(installed.Id) is { } platform && platform != its)
            throw new Problem(
                ProblemCode.Refused, $"{installed.Id} is installed for {its}", $"it cannot be changed to {platform} in place",
                NextCommand.Create("uninstall", installed.Id.Text)).ToException();
    }

    private (CatalogueName? From, Goal Goal) InstallOne(AppReference reference)
    {
        var (installed, found) = NameResolver.Meant(reference, offers, machine);
        if (installed is null)
        {
            var best = Best(found, reference.Selector);
            return (best.Offer.Catalogue, NewGoal(found, best, reference.Selector, reference.Selector, isFirm: true));
        }

        RequireItsPlatform(installed);
        var willDo = reference.Selector is null || reference.Selector.Accepts(installed.Version, installed.Line);
        if (found.Count == 0 && !willDo) throw NotToBeHad(installed, reference.Selector!).ToException();
        if (found.Count > 0 && reference.Selector is not null && !willDo) Best(found, reference.Selector);
        var asked = reference.Selector ?? installed.Follows;
        return (installed.Catalogue, InstalledGoal(installed, found, asked, asked, willDo, isFirm: true));
    }

    /// <summary>The request for an app that is not there.</summary>
    /// <param name="found">Its offers, in order of preference.</param>
    /// <param name="best">The best of them.</param>
    /// <param name="selector">What will do.</param>
    /// <param name="asked">What is remembered as asked for.</param>
    /// <param name="isFirm">Whether there is no plan without it.</param>
    private Goal NewGoal(
        IReadOnlyList<Offer> found, ReleaseChoice best, VersionSelector? selector, VersionSelector? asked, bool isFirm)
    {
        return new Goal(found[0].Card.Id, new Candidate(
            best, null), new Lazy<GoalStates>(States), isFirm, selector, chosen => chosen.Choice is { } choice
            ? PlanItem.Changing(null, choice, asked) with { AlsoIn = AlsoIn(found, choice, selector) }
            : new PlanItem { Id = found[0].Card.Id.Text, Action = PlanAction.Cannot });

        GoalStates States()
        {
            var wanted = Wanted(found, selector).ToList();
            return new GoalStates(
                [.. wanted.Concat(Others(found, wanted)).Select(choice => new Candidate(choice, null)), Candidate.Absent],
                ValueSet.Below(wanted.Count));
        }
    }

    /// <summary>The request for an app that is there.</summary>
    /// <param name="installed">The app as installed.</param>
    /// <param name="found">What its catalogue offers.</param>
    /// <param name="selector">What will do.</param>
    /// <param name="asked">What is remembered as asked for.</param>
    /// <param name="willDo">Whether it will do as it is.</param>
    /// <param name="isFirm">Whether there is no plan without it.</param>
    private Goal InstalledGoal(
        InstalledApp installed,
        IReadOnlyList<Offer> found,
        VersionSelector? selector,
        VersionSelector? asked,
        bool willDo,
        bool isFirm)
    {
        var kept = new Candidate(null, installed);
        var best =
            willDo ? kept : Wanted(found, selector).Where(IsOther).Select(choice => new Candidate(choice, null)).FirstOrDefault();
        return new Goal(installed.Id, best, new Lazy<GoalStates>(States), isFirm, selector, chosen =>
            chosen.Choice is { } choice ? PlanItem.Changing(installed, choice, asked) with { IsDependency = false }
            : willDo ? Kept(installed, asked, found)
            : new PlanItem { Id = installed.Id.Text, Action = PlanAction.Cannot, Installed = installed });

        GoalStates States()
        {
            var wanted = Wanted(found, selector).Where(IsOther).ToList();
            var changed = wanted.Concat(Others(found, wanted).Where(IsOther)).Select(choice => new Candidate(choice, null));
            return willDo
                ? new GoalStates([kept, .. changed], ValueSet.Below(wanted.Count + 1))
                : new GoalStates([.. changed, kept], ValueSet.Below(wanted.Count));
        }

        bool IsOther(ReleaseChoice choice) => choice.Release.Version != installed.Version;
    }

    /// <summary>The releases that will do, the best first.</summary>
    private IEnumerable<ReleaseChoice> Wanted(IEnumerable<Offer> found, VersionSelector? selector) =>
        found.SelectMany(offer => offer.Card.ReleasesFor(machine.PlatformOf(offer.Card.Id), selector)
            .Where(release => machine.Pins.Accepts(offer.Card.Id, release.Version, release.Line))
            .Select(release => ChoiceOf(offer, release)));

    private ReleaseChoice ChoiceOf(Offer offer, Release release) =>
        new(offer, release, release.DeliveryFor(machine.PlatformOf(offer.Card.Id))!);

    /// <summary>The best release that will do.</summary>
    /// <exception cref="ProblemException">None is offered, or the app's pin does not allow any.</exception>
    private ReleaseChoice Best(IReadOnlyList<Offer> found, VersionSelector? selector)
    {
        var id = found[0].Card.Id;
        var best = ReleaseChoice.Require(found, selector, machine.PlatformOf(id));
        if (machine.Pins.InForce(id) is not { } pin) return best;
        return ReleaseChoice.Find(found, selector, machine.PlatformOf(id), pin)
            ?? throw Pinned(id, best.Release.Version, pin).ToException();
    }

    /// <summary>The releases that would not do, perhaps because of others.</summary>
    private IEnumerable<ReleaseChoice> Others(IEnumerable<Offer> found, List<ReleaseChoice> wanted) => found
        .SelectMany(offer => offer.Card.Releases.Where(release =>
            release.DeliveryFor(machine.PlatformOf(offer.Card.Id)) is not null)
            .Select(release => ChoiceOf(offer, release)))
        .Where(choice => !wanted.Exists(other => ReferenceEquals(other.Release, choice.Release)));

    private static Problem Pinned(AppId id, AppVersion version, Pin pin) => new(
        ProblemCode.Refused, $"{id} {version} cannot be installed", $"{id} is {pin.Words}",
        Advice.Combine($"{NextCommand.Create("pin", id.Text, "--lift")}, or name a version that the pin allows"));

    private Problem NotToBeHad(InstalledApp installed, VersionSelector wanted) => new(
        ProblemCode.NothingMatched,
        $"{installed.Id}@{wanted} is not available; {installed.Version} is installed",
        CatalogueStatus.Words(installed.Catalogue, offers),
        CatalogueStatus.FindState(installed.Catalogue, offers) switch
        {
            DueState.Paused => (Advice)NextCommand.Create("catalogue resume", installed.Catalogue.Text),
            DueState.NotFetched => NextCommand.Create("catalogue refresh", installed.Catalogue.Text),
            DueState.Dropped => "add the catalogue again, or uninstall the app and install it from another one",
            DueState.Current or DueState.Due or DueState.Changed or DueState.Pinned or DueState.Follows
                or DueState.HeldBack or DueState.UpdatesItself or DueState.OtherPlatform or DueState.NotOffered =>
                Advice.Combine($"{NextCommand.Create("uninstall", installed.Id.Text)}, and install it from another catalogue"),
        });

    /// <summary>Whether programs of a platform run on the machine; by default, only those of its own.</summary>
    public Func<Platform, bool> CanRun { get; init; } = platform => platform.RunsOn(machine.Platform);

    private List<InstalledApp> Installed(IEnumerable<string> names)
    {
        var problems = new List<Problem>();
        var apps = new List<InstalledApp>();
        foreach (var name in names)
        {
            try
            {
                apps.Add(NameResolver.Installed(name, machine));
            }
            catch (ProblemException unknown)
            {
                problems.Add(unknown.Problem);
            }
        }

        if (problems.Count > 0) throw Joined(problems, "nothing has been changed").ToException();
        return [.. apps.DistinctBy(app => app.Id)];
    }

    /// <summary>One problem as it is; several as one that lists them all, with the code of the first.</summary>
    private static Problem Joined(List<Problem> problems, string state)
    {
        if (problems.Count == 1) return problems[0];
        var lines = problems.SelectMany(problem =>
            new Advice[] { problem.Why.Length == 0 ? problem.What : $"{problem.What} ({problem.Why})" }
            .Concat(problem.Remedy.IsEmpty ? [] : [Advice.Combine($"  {problem.Remedy}")])
            .Concat(problem.Details.Select(detail => Advice.Combine($"    {detail}"))));
        return new Problem(problems[0].Code, $"{problems.Count} of the names cannot be used", state) { Details = [.. lines] };
    }

    /// <summary>
    /// Which other catalogues have an app too, and what they would give: a user may prefer one of them, or wonder.
    /// </summary>
    private List<(CatalogueName Catalogue, AppVersion? Version)> AlsoIn(
        IReadOnlyList<Offer> found, ReleaseChoice choice, VersionSelector? selector) =>
        [.. found.Where(other => other.Catalogue != choice.Offer.Catalogue)
            .Select(other => (
                other.Catalogue,
                ReleaseChoice.Find([other], selector, machine.PlatformOf(other.Card.Id))?.Release.Version))];

}
