using AmberCrate.Core.Machine;
using AmberCrate.Core.Offers;
using AmberCrate.Core.Problems;
using AmberCrate.Core.Solving;
using AmberCrate.Core.Values;

namespace AmberCrate.Core.Planning;

/// <summary>
/// Explains why there is no plan, or not the preferred one: as few facts as it takes, in the order that
/// they lead to each other.
/// </summary>
internal sealed class Refusal(
    MachineState machine, IOffers offers, IReadOnlyList<Goal> goals, RequestModel model, bool mayMakeOlder)
{
    private const int MostWaysOut = 8;
    private const int MostThinned = 150;

    /// <summary>The refusal of a request.</summary>
    /// <param name="because">Given rules that nothing keeps together.</param>
    public Problem Problem(IReadOnlyList<Rule> because)
    {
        var reasons = Reasons(because);
        var asked = goals.Where(goal => reasons.Exists(reason =>
            reason is PlanReason.AskedFor && reason.About == goal.Id)).ToList();
        var lines = Told(reasons).ToList();
        if (reasons.OfType<PlanReason.Needs>()
            .Where(need => need.IsOffered)
            .GroupBy(need => need.Other.Id)
            .FirstOrDefault(group => group.Skip(1).Any()) is { } contested)
            lines.Add($"only one version of {contested.Key} can be there at a time");
        var isMissing = reasons.OfType<PlanReason.Needs>().Any(need => !need.IsOffered && offers.Find(need.Other.Id).Count == 0);
        return new Problem(
            isMissing ? ProblemCode.NothingMatched : ProblemCode.Refused,
            asked.Count > 1
                ? $"{Joined(asked.Select(goal => goal.Id.Text))} cannot be there together"
                : $"{(asked.Count == 1 ? asked[0].Id.Text : "what is asked for")} cannot be installed on this machine",
            "the reasons follow below, and nothing has been changed",
            WaysOut(reasons, asked))
        { Details = [.. lines] };
    }

    /// <summary>
    /// Why a goal did not get what it prefers, given what the goals before it got, and that the later goals are granted too.
    /// Empty if no reason is found.
    /// </summary>
    /// <param name="request">The number of the request.</param>
    /// <param name="values">What every variable has got.</param>
    public string WhyNot(int request, IReadOnlyList<int> values)
    {
        var before = new RequestModel(
            machine, offers, [.. goals.Select(goal => goal with { IsFirm = false })], model.Others, explains: true);
        var better = goals[request].Wanted & ValueSet.Below(values[request]);
        if (better.IsEmpty) return "";
        for (var at = 0; at < goals.Count; at++)
        {
            PlanReason reason = at < request
                ? new PlanReason.Planned(goals[at].Id, goals[at].Candidates[values[at]].Version)
                : new PlanReason.AskedFor(goals[at].Id, null, IsNarrower: false);
            var granted = at < request
                ? ValueSet.One(values[at])
                : at == request ? better : goals[at].Wanted.Contains(values[at]) ? goals[at].Wanted : ValueSet.One(values[at]);
            var others = ValueSet.Below(goals[at].Candidates.Count) - granted;
            if (!others.IsEmpty) before.Rules.Add(new Rule(reason, new Term(at, others)));
        }

        return new Solver(before.Sizes, before.Rules).Solve([], RequestSolver.MostWork / 20) is Solution.Impossible impossible
            ? string.Join("; ", Told([.. Reasons(impossible.Because, before).Where(
                reason => reason is not PlanReason.AskedFor || reason.About != goals[request].Id)]))
            : "";
    }

    private static string Joined(IEnumerable<string> parts)
    {
        var all = parts.ToList();
        return all.Count < 2 ? string.Concat(all) : $"{string.Join(", ", all[..^1])} and {all[^1]}";
    }

    /// <summary>The facts, without those that say nothing beside the others.</summary>
    private static IEnumerable<string> Told(List<PlanReason> reasons) => reasons
        .Where(reason => reason is not (PlanReason.AskedFor { Selector: null } or PlanReason.Planned)
            || !reasons.Exists(other => other.About == reason.About && !ReferenceEquals(other, reason)))
        .Where(reason => reasons.Count > 1 || reason is not PlanReason.AskedFor)
        .Select(reason => reason.ToString())
        .Distinct();

    private List<PlanReason> Reasons(IReadOnlyList<Rule> because) => Reasons(because, model);

    /// <summary>
    /// The facts behind rules that nothing keeps together, as few as it takes, each followed by those about what it leads to.
    /// </summary>
    private static List<PlanReason> Reasons(IReadOnlyList<Rule> because, RequestModel model)
    {
        var places =
            model.Ids.Take(model.GoalCount).Select((id, place) => (id, place)).ToDictionary(pair => pair.id, pair => pair.place);
        var left = Thinned(because, model).Select(rule => (PlanReason)rule.Fact!)
            .OrderBy(reason => places.GetValueOrDefault(reason.About, int.MaxValue))
            .ThenBy(reason => reason is not PlanReason.AskedFor)
            .ToList();
        var told = new List<PlanReason>();
        foreach (var start in left.ToList()) Tell(start);
        return told;

        void Tell(PlanReason reason)
        {
            if (!left.Remove(reason)) return;
            told.Add(reason);
            var next = OtherOf(reason) ?? reason.About;
            foreach (var other in left.Where(other => other.About == next).ToList()) Tell(other);
        }
    }

    private static AppId? OtherOf(PlanReason reason) => reason switch
    {
        PlanReason.Needs needs => needs.Other.Id,
        PlanReason.Excludes excludes => excludes.Other.Id,
        _ => null,
    };

    /// <summary>The rules without those that the contradiction does not need.</summary>
    private static List<Rule> Thinned(IReadOnlyList<Rule> because, RequestModel model)
    {
        var needed = because.ToList();
        if (needed.Count > MostThinned) return needed;
        foreach (var rule in because)
        {
            var fewer = needed.Where(other => !ReferenceEquals(other, rule)).ToList();
            if (new Solver(model.Sizes, fewer).Solve([], RequestSolver.MostWork / 200) is Solution.Impossible without)
                needed = [.. fewer.Where(without.Because.Contains)];
        }

        return needed;
    }

    /// <summary>What the user could do instead; each has been tried.</summary>
    private Advice WaysOut(List<PlanReason> reasons, List<Goal> asked)
    {
        var ways = new List<Advice>();
        foreach (var goal in asked.Take(MostWaysOut).Where(goal => goals.Count > 1 && Works(goals.Where(other => other != goal))))
            ways.Add($"leave out {goal.Id}");
        foreach (var goal in asked.Take(MostWaysOut)
            .Where(
                goal => goal.Follows is not null && Works(goals.Select(other =>
                    other == goal ? other.With(Present(other)) : other))))
            ways.Add($"ask for {goal.Id} without @{goal.Follows}");
        foreach (var held in reasons.OfType<PlanReason.Held>().Where(held => held.Selector is not null).Take(MostWaysOut))
        {
            if (WorksOn(machine.Apps.Select(app => app.Id == held.About ? app with { Follows = null } : app)))
                ways.Add($"let {held.About} go from @{held.Selector}: {NextCommand.Create("install", $"{held.About}@SELECTOR")}");
        }

        foreach (var app in machine.Apps.Where(app => goals.All(goal => goal.Id != app.Id) && !machine.RelatedTo(app.Id).Any()
            && reasons.Exists(reason => reason.About == app.Id || OtherOf(reason) == app.Id)).Take(MostWaysOut))
        {
            if (WorksOn(machine.Apps.Where(other => other.Id != app.Id))) ways.Add($"uninstall {app.Id} first");
        }

        return ways.Count switch
        {
            0 => "ask the maintainer of the catalogue, or add a catalogue that offers other releases",
            1 => ways[0],
            _ => $"{Advice.Join(", ", ways[..^1])} or {ways[^1]}",
        };
    }

    /// <summary>Every state where the app is installed.</summary>
    private static ValueSet Present(Goal goal) =>
        ValueSet.Create(Enumerable.Range(0, goal.Candidates.Count).Where(value => goal.Candidates[value].Version is not null));

    private bool Works(IEnumerable<Goal> other) => new RequestSolver(machine, offers, mayMakeOlder).CanSolve([.. other]);

    private bool WorksOn(IEnumerable<InstalledApp> apps) =>
        new RequestSolver(machine.With(apps), offers, mayMakeOlder).CanSolve(goals);
}
