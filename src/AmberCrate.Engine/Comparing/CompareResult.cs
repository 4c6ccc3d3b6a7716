using AmberCrate.Core.Comparing;

namespace AmberCrate.Engine.Comparing;

/// <summary>What a comparison has found.</summary>
/// <param name="Pair">The comparison of two sides; null where many machines were compared.</param>
/// <param name="Fleet">The comparison of many machines; null where two sides were compared.</param>
/// <param name="Now">When it was done.</param>
public sealed record CompareResult(Comparison? Pair, ComparedFleet? Fleet, DateTimeOffset Now)
{
    /// <summary>Whether anything differs, or could not be compared.</summary>
    public bool HasDifference => Pair?.Differences.Count > 0 || Fleet is { Drifted: > 0 } or { Unreadable.Count: > 0 };
}
