using AmberCrate.Core.Plans;
using AmberCrate.Core.Runs;

namespace AmberCrate.Engine.Records;

/// <summary>An earlier run, as its record has it.</summary>
/// <param name="Number">Its number.</param>
/// <param name="Command">The command as it was typed.</param>
/// <param name="Items">Its items.</param>
public sealed record RecordedRun(long Number, string Command, IReadOnlyList<RecordedItem> Items)
{
    /// <summary>When it began.</summary>
    public DateTimeOffset Begun { get; init; }

    /// <summary>When it ended; null where it was cut off.</summary>
    public DateTimeOffset? Ended { get; init; }

    /// <summary>Whether a user stopped it.</summary>
    public bool IsInterrupted { get; init; }

    /// <summary>Who began it; null where that was not noted.</summary>
    public string? Who { get; init; }

    /// <summary>The catalogues whose data it used although their signatures had expired.</summary>
    public IReadOnlyList<ExpiredCatalogue> Expired { get; init; } = [];

    /// <summary>How many items had each outcome, null for those that had none.</summary>
    public IReadOnlyList<(Outcome? Outcome, int Count)> Counts { get; init; } = [];
}
