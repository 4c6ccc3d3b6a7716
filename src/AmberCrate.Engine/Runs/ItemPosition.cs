using AmberCrate.Core.Plans;

namespace AmberCrate.Engine.Runs;

/// <summary>An item and its place among those of a plan that change something.</summary>
/// <param name="Number">The place, from 1; 0 where the item changes nothing.</param>
/// <param name="Count">How many of those there are.</param>
/// <param name="Item">The item.</param>
public sealed record ItemPosition(int Number, int Count, PlanItem Item);
