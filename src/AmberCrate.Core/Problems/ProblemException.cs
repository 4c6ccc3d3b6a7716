namespace AmberCrate.Core.Problems;

/// <summary>Carries a <see cref="Problem"/> to the place that can report it.</summary>
public sealed class ProblemException(Problem problem, Exception? inner = null) : Exception(problem.What, inner)
{
    /// <summary>The problem in full.</summary>
    public Problem Problem { get; } = problem;
}
