namespace AmberCrate.Engine.Inspecting;

/// <summary>What there is to know of one kind of finding.</summary>
/// <param name="Kind">The kind.</param>
/// <param name="Weight">How bad it is.</param>
/// <param name="Means">What was seen.</param>
/// <param name="Remedy">What helps, in short. A finding says it in full.</param>
public sealed record FindingRow(FindingKind Kind, FindingWeight Weight, string Means, string Remedy);
