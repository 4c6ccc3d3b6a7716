using AmberCrate.Core.Bundles;
using AmberCrate.Core.Cards;
using AmberCrate.Core.Machine;
using AmberCrate.Core.Problems;
using AmberCrate.Core.Versions;

namespace AmberCrate.Core.Planning;

/// <summary>Turns requests into plans. Pure: the same machine, offers and request give the same plan.</summary>
public sealed class Planner(MachineState machine, IOffers offers)
{
    /// <summary>Plans what a list of references asks for. The whole list is judged before anything is refused.</summary>
    /// <exception cref="ProblemException">A reference fits nothing or several apps, or two ask for different things.</exception>
    public Plan Install(IEnumerable<AppReference> references)
    {
        var problems = new List<Problem>();
        var items = new OrderedDictionary<string, (AppReference Reference, PlanItem Item)>();
        foreach (var reference in references)
        {
            try
            {
                var item = InstallOne(reference);
                if (!items.TryGetValue(item.Id, out var earlier)) items.Add(item.Id, (reference, item));
                else if (earlier.Reference.Selector != reference.Selector || earlier.Item.Offer?.Catalogue != item.Offer?.Catalogue)
                    problems.Add(new Problem(ProblemCode.Refused, $"{item.Id} is asked for twice, and differently: {earlier.Reference} and {reference}", Remedy: "leave one of them out"));
            }
            catch (ProblemException refused)
            {
                problems.Add(refused.Problem);
            }
        }

        if (problems.Count > 0) throw Joined(problems, "nothing has been changed").ToException();
        return new Plan(new NeedsTaker(machine, offers).Complete(items.Values.Select(pair => pair.Item)));
    }

    /// <summary>Plans bringing apps up to date within what was asked for.</summary>
    /// <param name="names">The installed apps to bring up to date; empty for all that are due.</param>
    /// <exception cref="ProblemException">A name fits no installed app, or several.</exception>
    public Plan Upgrade(IReadOnlyCollection<string> names)
    {
        if (names.Count > 0) return new Plan(AsFarAsPossible([.. Installed(names).Select(app => UpgradeOne(DueEntry.Of(app, offers, machine)))]));
        return new Plan(AsFarAsPossible([.. DueEntry.All(machine, offers)
            .Where(entry => entry.State is DueState.Due or DueState.Pinned)
            .Select(UpgradeOne)]));
    }

    /// <summary>Plans taking installed apps off.</summary>
    /// <exception cref="ProblemException">A name fits no installed app, or several.</exception>
    public Plan Uninstall(IEnumerable<string> names)
    {
        var removed = Installed(names);
        var ids = removed.Select(app => app.Id).ToHashSet();
        var needed = machine.Apps.Where(app => !ids.Contains(app.Id)).SelectMany(app => app.Needs.Where(need => ids.Contains(need.Id)).Select(need => $"{app.Id} {app.Version} needs {need}")).ToList();
        return needed.Count == 0
            ? new Plan([.. removed.Select(app => new PlanItem { Id = app.Id.Text, Action = PlanAction.Remove, Installed = app })])
            : throw new Problem(ProblemCode.Refused, "other apps need what is to be taken off", "nothing has been changed", "uninstall these too, or leave it") { Details = needed }.ToException();
    }

    /// <summary>Plans making a machine hold what a bundle lists, in the bundle's order. What cannot be had is an item too.</summary>
    public Plan Equip(Bundle bundle) => new(AsFarAsPossible([.. bundle.Apps.Select(EquipOne).DistinctBy(item => item.Id)]));

    /// <summary>Takes along what the items need; an item whose needs cannot be had is not carried out, and the others are.</summary>
    private IReadOnlyList<PlanItem> AsFarAsPossible(List<PlanItem> items)
    {
        try
        {
            return new NeedsTaker(machine, offers).Complete(items);
        }
        catch (ProblemException)
        {
            return OneByOne(items);
        }
    }

    private IReadOnlyList<PlanItem> OneByOne(List<PlanItem> items)
    {
        var sound = new List<PlanItem>();
        IReadOnlyList<PlanItem> complete = [];
        foreach (var item in items)
        {
            try
            {
                complete = new NeedsTaker(machine, offers).Complete([.. sound, item]);
                sound.Add(item);
            }
            catch (ProblemException refused)
            {
                var problem = refused.Problem;
                var reason = problem.Details.Count > 0 ? string.Join("; ", problem.Details) : problem.Why;
                sound.Add(item with { Action = PlanAction.Cannot, Note = $"{problem.What} ({reason})" });
                complete = new NeedsTaker(machine, offers).Complete(sound);
            }
        }

        return complete;
    }

    private PlanItem InstallOne(AppReference reference)
    {
        var found = NameResolver.Offered(reference, offers);
        var installed = machine.Find(found[0].Card.Id);
        if (installed is not null && reference.Catalogue is { } wanted && wanted != installed.Catalogue)
            throw StaysWithItsCatalogue(installed, wanted).ToException();
        if (installed is not null)
            found = [.. found.Where(offer => offer.Catalogue == installed.Catalogue)];
        if (installed is not null && (found.Count == 0 || reference.Selector is null))
            return Kept(installed, installed.Asked, found);

        var choice = ReleaseChoice.Require(found, reference.Selector, machine.Platform);
        if (installed is not null && reference.Selector!.Accepts(installed.Version, installed.Line))
            return Kept(installed, reference.Selector, found);
        return Changed(installed, choice, reference.Selector);
    }

    private static Problem StaysWithItsCatalogue(InstalledApp installed, CatalogueName wanted) => new(
        ProblemCode.Refused,
        $"{installed.Id} is installed from {installed.Catalogue} and cannot be taken over from {wanted}",
        "two catalogues may mean different apps by one id",
        $"acrate uninstall {installed.Id}, then install it from {wanted}");

    private PlanItem Kept(InstalledApp installed, VersionSelector? asked, IReadOnlyList<Offer> found)
    {
        var item = new PlanItem
        {
            Id = installed.Id.Text, Action = asked == installed.Asked ? PlanAction.Keep : PlanAction.Remember, Installed = installed, Asked = asked,
        };
        if (found.Count == 0) return item with { Note = offers.Paused.Contains(installed.Catalogue) ? $"the catalogue {installed.Catalogue} is paused" : "its catalogue does not offer it any more" };
        var due = DueEntry.Of(installed with { Asked = asked }, offers, machine);
        var hint = due.State switch
        {
            DueState.Due => $"{due.Available!.Release.Version} is available: acrate upgrade {installed.Id}",
            DueState.Pinned => $"{due.Beyond!.Release.Version} is available, outside @{asked}",
            _ => "",
        };
        return item with { Note = item.Action == PlanAction.Remember ? JoinNotes($"now kept to @{asked}", hint) : hint };
    }

    private static PlanItem Changed(InstalledApp? installed, ReleaseChoice choice, VersionSelector? asked) => new()
    {
        Id = choice.Offer.Card.Id.Text,
        Action = installed is null ? PlanAction.Install : choice.Release.Version > installed.Version ? PlanAction.Upgrade : PlanAction.Downgrade,
        Installed = installed, Offer = choice.Offer, Release = choice.Release, Artifact = choice.Artifact, Asked = asked,
    };

    private static PlanItem UpgradeOne(DueEntry entry)
    {
        var app = entry.App;
        var rest = new PlanItem { Id = app.Id.Text, Action = PlanAction.Keep, Installed = app, Asked = app.Asked };
        return entry.State switch
        {
            DueState.Due => Changed(app, entry.Available!, app.Asked) with
            {
                Note = entry.Beyond is { } beyond ? $"{beyond.Release.Version} is beyond" : "",
            },
            DueState.Pinned => rest with { Action = PlanAction.StayPinned, Note = $"{entry.Beyond!.Release.Version} is outside @{app.Asked}" },
            DueState.Paused => rest with { Action = PlanAction.Cannot, Note = $"the catalogue {app.Catalogue} is paused" },
            DueState.NotOffered => rest with { Action = PlanAction.Cannot, Note = $"{app.Catalogue} does not offer it any more" },
            _ => rest,
        };
    }

    private PlanItem EquipOne(BundleApp wanted)
    {
        var cannot = new PlanItem { Id = wanted.Reference.Name, Action = PlanAction.Cannot };
        try
        {
            var found = NameResolver.Offered(wanted.Reference, offers);
            var installed = machine.Find(found[0].Card.Id);
            cannot = cannot with { Id = found[0].Card.Id.Text, Installed = installed };
            var asked = wanted.Reference.Selector;
            if (installed is not null)
            {
                if (wanted.Reference.Catalogue is { } from && from != installed.Catalogue) throw StaysWithItsCatalogue(installed, from).ToException();
                found = [.. found.Where(offer => offer.Catalogue == installed.Catalogue)];
                var satisfied = wanted.Version is null ? asked?.Accepts(installed.Version, installed.Line) != false : installed.Version == wanted.Version;
                if (satisfied) return Kept(installed, asked, found);
            }

            var selector = wanted.Version is null ? asked : new VersionSelector.Exactly(wanted.Version);
            return Changed(installed, ReleaseChoice.Require(found, selector, machine.Platform), asked);
        }
        catch (ProblemException refused)
        {
            return cannot with { Note = refused.Problem.Why.Length == 0 ? refused.Problem.What : $"{refused.Problem.What} ({refused.Problem.Why})" };
        }
    }

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
        var lines = problems.SelectMany(problem => new[] { problem.Why.Length == 0 ? problem.What : $"{problem.What} ({problem.Why})" }
            .Concat(problem.Remedy.Length == 0 ? [] : [$"  {problem.Remedy}"])
            .Concat(problem.Details.Select(detail => $"    {detail}")));
        return new Problem(problems[0].Code, $"{problems.Count} of the names cannot be used", state) { Details = [.. lines] };
    }

    private static string JoinNotes(string first, string second) => second.Length == 0 ? first : $"{first}; {second}";
}
