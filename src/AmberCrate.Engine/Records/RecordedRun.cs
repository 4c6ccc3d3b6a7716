using AmberCrate.Core.Runs;

namespace AmberCrate.Engine.Records;

/// <summary>An earlier run, as its record has it.</summary>
/// <param name="Number">Its number.</param>
/// <param name="Command">The command as it was typed.</param>
/// <param name="Items">Its items.</param>
public sealed record RecordedRun(long Number, string Command, IReadOnlyList<RecordedItem> Items)
{
    /// <summary>Whether anything of it is still to be done.</summary>
    public bool IsLeft => Items.Any(item => item.IsLeft);
}
