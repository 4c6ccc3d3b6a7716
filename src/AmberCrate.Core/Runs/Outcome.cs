namespace AmberCrate.Core.Runs;

/// <summary>How an item of a run ended. Every item ends in exactly one.</summary>
public enum Outcome
{
    /// <summary>Done as planned and verified.</summary>
    Done,

    /// <summary>There was nothing to do.</summary>
    Unchanged,

    /// <summary>Left as it is because of what was asked for.</summary>
    Pinned,

    /// <summary>Not reached, because the run was interrupted before.</summary>
    Skipped,

    /// <summary>Left as it is, because a person has it open.</summary>
    AppOpen,

    /// <summary>No catalogue offers it.</summary>
    NotOffered,

    /// <summary>It failed; the machine is as it was before the item.</summary>
    Failed,
}
