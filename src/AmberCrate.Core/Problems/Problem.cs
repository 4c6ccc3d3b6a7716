namespace AmberCrate.Core.Problems;

/// <summary>One thing that went wrong, said in full: what happened, to what, why, and what to do next.</summary>
public sealed record Problem
{
    /// <summary>Says what went wrong.</summary>
    /// <param name="code">The stable code; it decides the exit code.</param>
    /// <param name="what">What happened and to what, as one sentence without a full stop.</param>
    /// <param name="why">The cause as far as it is known; may be empty.</param>
    /// <param name="remedy">What the user can do next; null for nothing.</param>
    public Problem(ProblemCode code, string what, string why = "", Advice? remedy = null) =>
        (Code, What, Why, Remedy) = (code, what, why, remedy ?? Advice.None);

    /// <summary>The stable code; it decides the exit code.</summary>
    public ProblemCode Code { get; init; }

    /// <summary>What happened and to what, as one sentence without a full stop.</summary>
    public string What { get; init; }

    /// <summary>The cause as far as it is known; may be empty.</summary>
    public string Why { get; init; }

    /// <summary>What the user can do next; may be empty.</summary>
    public Advice Remedy { get; init; }

    /// <summary>Further lines that belong to the problem, such as candidates or the faults of a file.</summary>
    public IReadOnlyList<Advice> Details { get; init; } = [];

    /// <summary>Whether something is left half done, which the next command that changes something takes up.</summary>
    public bool LeavesOpen { get; init; }

    /// <summary>Wraps this problem in an exception.</summary>
    public ProblemException ToException(Exception? inner = null) => new(this, inner);
}
