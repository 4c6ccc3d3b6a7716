using AmberCrate.Core.Values;

namespace AmberCrate.Core.Runs;

/// <summary>How an item of a run ended. Every item ends in exactly one.</summary>
public enum Outcome
{
    /// <summary>Done as planned and verified.</summary>
    Done,

    /// <summary>There was nothing to do.</summary>
    Unchanged,

    /// <summary>Left as it is because of a pin.</summary>
    Pinned,

    /// <summary>Not reached, because the run was interrupted before.</summary>
    Skipped,

    /// <summary>Left as it is, because a user has it open.</summary>
    InUse,

    /// <summary>No catalogue offers it.</summary>
    NotOffered,

    /// <summary>It failed; the machine is unchanged by this item.</summary>
    Failed,
}

/// <summary>The words for <see cref="Outcome"/>, in records, logs, JSON and on the terminal.</summary>
public static class OutcomeWords
{
    /// <summary>The word for an item that has not ended yet.</summary>
    public const string NotEnded = "open";

    /// <summary>A word for each outcome.</summary>
    public static WordTable<Outcome> Outcomes { get; } = new(
        (Outcome.Done, "done"), (Outcome.Unchanged, "unchanged"), (Outcome.Pinned, "pinned"), (Outcome.Skipped, "skipped"),
        (Outcome.InUse, "in-use"), (Outcome.NotOffered, "not-offered"), (Outcome.Failed, "failed"));
}

/// <summary>What outcomes have in common, in one place for the report, the exit code and retry.</summary>
public static class OutcomeGroups
{
    /// <summary>Whether the machine is changed as planned.</summary>
    public static bool IsDone(this Outcome outcome) => outcome is Outcome.Done;

    /// <summary>Whether the user did not get what was requested.</summary>
    public static bool IsFailure(this Outcome outcome) => outcome is Outcome.Failed or Outcome.NotOffered or Outcome.InUse;

    /// <summary>Whether there is still something to do, which retry does.</summary>
    public static bool IsLeft(this Outcome outcome) => outcome is Outcome.Failed or Outcome.InUse or Outcome.Skipped;
}
