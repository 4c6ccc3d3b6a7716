using AmberCrate.Core.Problems;

namespace AmberCrate.Engine.Inspecting;

/// <summary>Something that a check has found.</summary>
/// <param name="Kind">What kind of thing it is.</param>
/// <param name="App">The id of the app that it is about; null for the machine.</param>
/// <param name="What">What it is, in words.</param>
/// <param name="Remedy">What to do about it; may be empty.</param>
public sealed record Finding(FindingKind Kind, string? App, string What, Advice Remedy)
{
    /// <summary>How bad it is.</summary>
    public FindingWeight Weight => FindingTable.RowFor(Kind).Weight;

    /// <summary>Whether <c>check --repair</c> puts it right.</summary>
    public bool IsRepairable { get; init; }
}
