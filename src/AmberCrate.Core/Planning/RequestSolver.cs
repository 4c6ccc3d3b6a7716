using AmberCrate.Core.Machine;
using AmberCrate.Core.Offers;
using AmberCrate.Core.Plans;
using AmberCrate.Core.Problems;
using AmberCrate.Core.Solving;
using AmberCrate.Core.Versions;

namespace AmberCrate.Core.Planning;

/// <summary>
/// Solves a whole request at once: what is requested together with what it needs, what is installed and what excludes what. The
/// goals come in the order they were requested, each with the newest release that fits; then every installed app that
/// was not requested stays as it is if it can; then what is installed with it is the newest that fits.
/// </summary>
/// <param name="machine">The machine.</param>
/// <param name="offers">What is offered.</param>
/// <param name="mayMakeOlder">Whether other apps may become older if there is no other plan.</param>
internal sealed class RequestSolver(MachineState machine, IOffers offers, bool mayMakeOlder = false)
{
    /// <summary>How many terms of rules may be looked at: about two seconds on a machine of 2020.</summary>
    public const long MostWork = 40_000_000;

    private const int MostExplained = 8;

    /// <summary>The items of the plan, each behind what it needs.</summary>
    /// <exception cref="ProblemException">There is no plan, with the reasons and the ways out; or none was found within the
    /// bound.</exception>
    public IReadOnlyList<PlanItem> Solve(IReadOnlyList<Goal> goals)
    {
        var (model, solution) = Best(goals);
        return solution switch
        {
            Solution.Found found => Items(goals, model, found.Values),
            Solution.Impossible impossible =>
                throw new Refusal(machine, offers, goals, model, mayMakeOlder).Problem(impossible.Because).ToException(),
            _ => throw TooHard().ToException(),
        };
    }

    /// <summary>Whether there is a plan; false also where none was found within a part of the bound.</summary>
    public bool CanSolve(IReadOnlyList<Goal> goals)
    {
        var model = new RequestModel(machine, offers, goals, mayMakeOlder ? OthersMove.AnyVersion : OthersMove.NewerOnly);
        return Run(model, goals, MostWork / 20) is Solution.Found;
    }

    private static Problem TooHard() => new(
        ProblemCode.Refused,
        "planning took too long and was stopped",
        $"after {MostWork / 1_000_000} million steps there was no answer",
        "name fewer apps at once, or name the versions that you want");

    private static Solution Run(RequestModel model, IReadOnlyList<Goal> goals, long mostWork) =>
        new Solver(model.Sizes, model.Rules).Solve(
        [.. goals.Select((goal, at) => (goal, at))
            .Where(pair => !pair.goal.IsFirm)
            .Select(pair => new Preference.That(new Term(pair.at, pair.goal.Wanted))), .. model.Preferences], mostWork);

    /// <summary>
    /// Solved first with only the best state for each request, then with all of it, and both with every other installed
    /// app as it is. Where each request gets its best, nothing can be better; otherwise again with others that become newer.
    /// Only if there is no such plan, and the user may be asked, others become older.
    /// </summary>
    private (RequestModel Model, Solution Solution) Best(IReadOnlyList<Goal> goals)
    {
        if (goals.All(goal => goal.Best is not null))
        {
            List<Goal> bests = [.. goals.Select(goal => goal.OnlyBest())];
            var simple = new RequestModel(machine, offers, bests, OthersMove.Stay);
            if (Run(simple, bests, MostWork / 4) is Solution.Found best) return (simple, best);
        }

        var still = new RequestModel(machine, offers, goals, OthersMove.Stay);
        if (Run(still, goals, MostWork) is Solution.Found found
            && goals.Select((_, at) => found.Values[at]).All(value => value == 0)) return (still, found);
        var model = new RequestModel(machine, offers, goals, OthersMove.NewerOnly);
        var solution = Run(model, goals, MostWork);
        if (!mayMakeOlder || !model.RefusesOlder || solution is not Solution.Impossible) return (model, solution);
        model = new RequestModel(machine, offers, goals, OthersMove.AnyVersion);
        return (model, Run(model, goals, MostWork));
    }

    private List<PlanItem> Items(IReadOnlyList<Goal> goals, RequestModel model, IReadOnlyList<int> values)
    {
        var chosen = model.Ids.Select((id, at) => (id, Candidate: model.Candidates[at][values[at]]))
            .ToDictionary(pair => pair.id.Text, pair => pair.Candidate, StringComparer.Ordinal);
        var items = new OrderedDictionary<string, PlanItem>();
        var explained = 0;
        for (var at = 0; at < goals.Count; at++)
        {
            var item = goals[at].Make(model.Candidates[at][values[at]]);
            if (item.Action == PlanAction.Downgrade && goals[at].KeptIfWanted is not null) item = item.MadeOlder();
            if (values[at] > 0) item = WithReason(item, model.Candidates[at][0].Version, explained++ < MostExplained
                ? new Refusal(machine, offers, goals, model, mayMakeOlder).WhyNot(at, values)
                : "");
            items.Add(item.Id, item);
        }

        var dependants = chosen.Where(pair => pair.Value.Choice is not null)
            .SelectMany(pair => pair.Value.Needs.Select(need => (need.Id, By: pair.Key)))
            .ToLookup(pair => pair.Id, pair => pair.By);
        for (var at = goals.Count; at < values.Count; at++)
        {
            if (model.Candidates[at][values[at]].Choice is { } choice)
                items.Add(model.Ids[at].Text, Along(choice, dependants[model.Ids[at]]));
        }

        return InOrder(items, chosen);
    }

    /// <summary>The reason why it is not what would have been preferred, where that is known.</summary>
    private static PlanItem WithReason(PlanItem item, AppVersion? preferred, string why)
    {
        if (why.Length == 0)
        {
            if (item.Notes.Count > 0) return item;
            why = "it does not fit with other apps";
        }

        return item with { Notes = [PlanNote.NotPreferred(item.Note, item.Fetches ? preferred : null, why)] };
    }

    /// <summary>Something that changes although it was not requested.</summary>
    private PlanItem Along(ReleaseChoice choice, IEnumerable<string> dependants)
    {
        var id = choice.Offer.Card.Id;
        List<string> neededBy = [.. dependants.Distinct().Order(StringComparer.Ordinal)];
        var item = PlanItem.Changing(machine.Find(id), choice, machine.Find(id)?.Follows) with
        {
            NeededBy = neededBy,
            IsDependency = machine.Find(id)?.IsDependency ?? true,
            Notes = neededBy.Count > 0 || machine.Find(id) is null ? [] : [PlanNote.MakesRoom()],
        };
        return item.Action == PlanAction.Downgrade ? item.MadeOlder() : item;
    }

    /// <summary>
    /// The items in their order, each behind what it needs and what makes way for it; circles are cut where they close.
    /// </summary>
    private static List<PlanItem> InOrder(OrderedDictionary<string, PlanItem> items, Dictionary<string, Candidate> chosen)
    {
        var ordered = new List<PlanItem>(items.Count);
        var begun = new HashSet<string>(StringComparer.Ordinal);
        var movers = items.Values.Where(item => item is { Fetches: true, Installed.Conflicts.Count: > 0 }).ToList();
        foreach (var id in items.Keys) Put(id);
        return ordered;

        void Put(string id)
        {
            if (!items.TryGetValue(id, out var item) || !begun.Add(id)) return;
            if (item.Fetches)
            {
                foreach (var need in chosen[id].Needs) Put(need.Id.Text);
                foreach (var mover in movers.Where(mover =>
                    mover.Installed!.Conflicts.Any(other => other.Id.Text == id && chosen[id].IsMeantBy(other)))) Put(mover.Id);
                foreach (var excluded in chosen[id].Conflicts.Where(other => items.TryGetValue(other.Id.Text, out var mover)
                    && mover is { Fetches: true, Installed: { } old }
                    && other.Accepts(old.Version, old.Line))) Put(excluded.Id.Text);
            }

            ordered.Add(item);
        }
    }
}
