using AmberCrate.Core.Plans;
using AmberCrate.Core.Problems;

namespace AmberCrate.Core.Runs;

/// <summary>How one item of a plan ended.</summary>
/// <param name="Item">The item.</param>
/// <param name="Outcome">How it ended.</param>
/// <param name="Problem">Why it failed or waits; null where it does neither.</param>
public sealed record ItemReport(PlanItem Item, Outcome Outcome, Problem? Problem = null)
{
    /// <summary>How an item ends that changes nothing: something is in its way, nobody offers it, or it stays as it is.</summary>
    public static ItemReport OfUntouched(PlanItem item) =>
        item.Obstacle is { } obstacle ? new ItemReport(item, Outcome.Failed, obstacle)
        : new ItemReport(item, item.Action == PlanAction.Cannot ? Outcome.NotOffered
            : item.IsPinned ? Outcome.Pinned : Outcome.Unchanged);

    /// <summary>What the user should know also: what was left as they had changed it, for one.</summary>
    public IReadOnlyList<string> Notes { get; init; } = [];
}
