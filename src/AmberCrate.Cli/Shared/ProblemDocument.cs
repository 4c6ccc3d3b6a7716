using AmberCrate.Core.Problems;

namespace AmberCrate.Cli.Shared;

/// <summary>What went wrong, as JSON.</summary>
internal sealed record ProblemDocument(
    string Code,
    string What,
    string Why,
    string Remedy,
    IReadOnlyList<string> Details)
{
    public static ProblemDocument? OfMaybe(Problem? problem, CallOptions call) =>
        problem is null ? null : FromProblem(problem, call);

    public static ProblemDocument FromProblem(Problem problem, CallOptions call) => new(
        ProblemWords.Codes.WordOf(problem.Code), problem.What, problem.Why, problem.Remedy.In(call),
        [.. problem.Details.Select(detail => detail.In(call))]);
}
