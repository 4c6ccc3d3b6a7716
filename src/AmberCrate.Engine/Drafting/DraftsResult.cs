using AmberCrate.Core.Problems;

namespace AmberCrate.Engine.Drafting;

/// <summary>What has become of vendors' files.</summary>
/// <param name="Cards">The cards that have been written.</param>
/// <param name="Failed">The files without a card, each with the reason.</param>
public sealed record DraftsResult(IReadOnlyList<DraftResult> Cards, IReadOnlyList<(string Source, Problem Problem)> Failed);
