using AmberCrate.Core.Values;

namespace AmberCrate.Core.Runs;

/// <summary>The words for <see cref="Outcome"/>, in records, logs, JSON and on the terminal.</summary>
public static class OutcomeWords
{
    /// <summary>The word for an item that has not ended yet.</summary>
    public const string NotEnded = "open";

    /// <summary>A word for each outcome.</summary>
    public static WordTable<Outcome> Outcomes { get; } = new(
        (Outcome.Done, "done"), (Outcome.Unchanged, "unchanged"), (Outcome.Pinned, "pinned"), (Outcome.Skipped, "skipped"),
        (Outcome.AppOpen, "app-open"), (Outcome.NotOffered, "not-offered"), (Outcome.Failed, "failed"));
}
