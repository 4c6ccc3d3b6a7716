using AmberCrate.Core.Planning;
using AmberCrate.Core.Problems;

namespace AmberCrate.Core.Runs;

/// <summary>How one item of a plan ended.</summary>
/// <param name="Item">The item.</param>
/// <param name="Outcome">How it ended.</param>
/// <param name="Problem">Why it failed; null unless it did.</param>
public sealed record ItemReport(PlanItem Item, Outcome Outcome, Problem? Problem = null);
