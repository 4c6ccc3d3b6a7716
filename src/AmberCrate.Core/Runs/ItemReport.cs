using AmberCrate.Core.Planning;
using AmberCrate.Core.Problems;

namespace AmberCrate.Core.Runs;

/// <summary>How one item of a plan ended.</summary>
/// <param name="Item">The item.</param>
/// <param name="Outcome">How it ended.</param>
/// <param name="Problem">Why it failed or waits; null where it does neither.</param>
public sealed record ItemReport(PlanItem Item, Outcome Outcome, Problem? Problem = null)
{
    /// <summary>What the person should know besides: what was left as they had changed it, for one.</summary>
    public IReadOnlyList<string> Notes { get; init; } = [];
}
