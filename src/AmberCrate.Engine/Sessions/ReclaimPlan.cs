namespace AmberCrate.Engine.Sessions;

/// <summary>What can be deleted, and what of it stays.</summary>
/// <param name="Items">The files and folders.</param>
/// <param name="UndoDays">For how many days everything is kept that undo needs.</param>
public sealed record ReclaimPlan(IReadOnlyList<ReclaimItem> Items, int UndoDays)
{
    /// <summary>How many bytes are freed.</summary>
    public long Size => Items.Where(item => item.Kept is null).Sum(item => item.Size);
}
