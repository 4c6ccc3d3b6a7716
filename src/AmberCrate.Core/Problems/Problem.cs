namespace AmberCrate.Core.Problems;

/// <summary>One thing that went wrong, said in full: what happened, to what, why, and what to do next.</summary>
/// <param name="Code">The stable code; it decides the exit code.</param>
/// <param name="What">What happened and to what, as one sentence without a full stop.</param>
/// <param name="Why">The cause as far as it is known; may be empty.</param>
/// <param name="Remedy">What the person can do next; may be empty.</param>
public sealed record Problem(ProblemCode Code, string What, string Why = "", string Remedy = "")
{
    /// <summary>Further lines that belong to the problem, such as candidates or the faults of a file.</summary>
    public IReadOnlyList<string> Details { get; init; } = [];

    /// <summary>Wraps this problem in an exception.</summary>
    public ProblemException ToException(Exception? inner = null) => new(this, inner);
}
