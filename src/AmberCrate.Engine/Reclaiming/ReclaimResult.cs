using AmberCrate.Engine.Sessions;

namespace AmberCrate.Engine.Reclaiming;

/// <summary>What came of giving room back.</summary>
/// <param name="End">How far it has gone.</param>
/// <param name="Plan">What was found.</param>
public sealed record ReclaimResult(RunEnd End, ReclaimPlan Plan)
{
    /// <summary>What could not be deleted, and why.</summary>
    public IReadOnlyList<(ReclaimItem Item, string Fault)> Failed { get; init; } = [];

    /// <summary>Whether a user stopped it.</summary>
    public bool IsInterrupted { get; init; }

    /// <summary>How many bytes were freed.</summary>
    public long Freed { get; init; }
}
