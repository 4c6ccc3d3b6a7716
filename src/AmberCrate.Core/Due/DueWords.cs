using AmberCrate.Core.Values;

namespace AmberCrate.Core.Due;

/// <summary>The words for <see cref="DueState"/>, in JSON and on disk.</summary>
public static class DueWords
{
    /// <summary>A word for each state.</summary>
    public static WordTable<DueState> States { get; } = new(
        (DueState.Current, "current"), (DueState.Due, "due"), (DueState.Changed, "changed"), (DueState.Pinned, "pinned"),
            (DueState.Follows, "follows"),
        (DueState.HeldBack, "held-back"), (DueState.UpdatesItself, "self-updating"), (DueState.OtherPlatform, "other-platform"),
        (DueState.Paused, "paused"),
        (DueState.NotOffered, "not-offered"), (DueState.NotFetched, "not-fetched"), (DueState.Dropped, "dropped"));
}
