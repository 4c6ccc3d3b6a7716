using AmberCrate.Core.Cards;
using AmberCrate.Core.Machine;
using AmberCrate.Core.Problems;

namespace AmberCrate.Core.Plans;

/// <summary>Takes items out of a plan so that the rest still goes together.</summary>
public static class PlanPicking
{
    /// <summary>
    /// The items that go with those that are left out: what needs them and is not served by what exists now, what would
    /// exclude their present version, what their present version does not go with, and what was installed for nothing else.
    /// </summary>
    /// <param name="plan">The plan.</param>
    /// <param name="left">The ids of the items that the user leaves out.</param>
    /// <returns>The ids of all items that are left out.</returns>
    public static IReadOnlySet<string> Following(Plan plan, IEnumerable<string> left)
    {
        var gone = left.ToHashSet(StringComparer.Ordinal);
        var items = plan.Items.Where(item => item.Changes).ToDictionary(item => item.Id, StringComparer.Ordinal);
        while (items.Values.FirstOrDefault(item => !gone.Contains(item.Id) && Follows(item)) is { } next) gone.Add(next.Id);
        return gone;

        bool Follows(PlanItem item) =>
            (item.NeededBy.Count > 0 && item.NeededBy.All(id => gone.Contains(id)))
            || (item.Fetches
                && (Needs(item).Any(LacksItsNeed) || item.Offer!.Card.ConflictsOf(item.Release!).Any(IsStillThere)))
            || gone.Any(id => items.TryGetValue(id, out var stays) && stays.Installed is { } app && BreaksWith(app, item));

        // An app that stays as it is keeps what it needs, and nothing comes in that it excludes.
        static bool BreaksWith(InstalledApp app, PlanItem item) =>
            app.Needs.Any(need => need.Id.Text == item.Id && IsThere(need, item.Installed) && !WillBeThere(need, item))
            || app.Conflicts.Any(other =>
                other.Id.Text == item.Id && !IsThere(other, item.Installed) && WillBeThere(other, item));

        static bool IsThere(RelatedApp other, InstalledApp? app) => app is not null && other.Accepts(app.Version, app.Line);

        static bool WillBeThere(RelatedApp other, PlanItem item) =>
            item.To is { } version
            && other.Accepts(version, (item.Restores?.Line ?? item.Release?.Line ?? item.Installed?.Line)!);

        bool LacksItsNeed(RelatedApp need) => gone.Contains(need.Id.Text) && items.TryGetValue(need.Id.Text, out var target)
            && !(target.Installed is { } there && need.Accepts(there.Version, there.Line));

        bool IsStillThere(RelatedApp other) => gone.Contains(other.Id.Text) && items.TryGetValue(other.Id.Text, out var target)
            && target.Installed is { } there && other.Accepts(there.Version, there.Line);

        static IReadOnlyList<RelatedApp> Needs(PlanItem item) => item.Offer!.Card.NeedsOf(item.Release!);
    }

    /// <summary>The plan without some items.</summary>
    public static Plan Without(Plan plan, IReadOnlySet<string> left) =>
        plan with { Items = [.. plan.Items.Where(item => !left.Contains(item.Id))] };

    /// <summary>
    /// The plan in which items with an obstacle, and all that depends on them, are left as they are; each says why.
    /// </summary>
    /// <param name="plan">The plan.</param>
    /// <param name="obstacles">What is in the way, by id.</param>
    public static Plan Hindered(Plan plan, IReadOnlyDictionary<string, Problem> obstacles)
    {
        if (obstacles.Count == 0) return plan;
        var following = Following(plan, obstacles.Keys);
        return plan with
        {
            Items = [.. plan.Items.Select(item => !item.Changes || !following.Contains(item.Id) ? item
                : item.Hindered(obstacles.TryGetValue(item.Id, out var own) ? own : GoesWith(item, obstacles)))],
        };
    }

    private static Problem GoesWith(PlanItem item, IReadOnlyDictionary<string, Problem> obstacles) => new(
        obstacles.Values.All(obstacle => obstacle.Code == ProblemCode.SystemLacks)
            ? ProblemCode.SystemLacks
            : ProblemCode.Refused,
        $"{item.Id} {item.To ?? item.From} is not changed",
        $"it depends on {string.Join(", ", obstacles.Keys)}, which cannot be changed");
}
