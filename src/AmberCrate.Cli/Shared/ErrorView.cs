using AmberCrate.Cli.Tables;
using AmberCrate.Cli.Terminal;
using AmberCrate.Core.Problems;

namespace AmberCrate.Cli.Shared;

/// <summary>Says what went wrong: what, to what, why, and what to do next.</summary>
internal static class ErrorView
{
    private const int MostDetails = 50;

    /// <summary>Shows a problem on standard error, and as JSON too where that was requested.</summary>
    public static void Show(Output output, Problem problem)
    {
        output.Status("");
        output.Flush();
        WriteText(problem, output);
        if (output.IsJson)
            output.Json(new ErrorDocument(
                output.WritesLines ? "error" : null, ProblemDocument.FromProblem(problem, output.Call),
                    ExitCodes.ForProblem(problem.Code)));
    }

    /// <summary>What happened to an app, which is named once only.</summary>
    public static string WhatOf(Problem problem, string app, string version) =>
        problem.What.StartsWith(app + " ", StringComparison.Ordinal) ? problem.What : $"{app} {version}: {problem.What}";

    /// <summary>The lines about why, and what to do, below what happened.</summary>
    public static void ShowRest(Output output, Problem problem)
    {
        if (problem.Why.Length > 0) output.Fact("  why: ", problem.Why);
        if (!problem.Remedy.IsEmpty) output.Fact("  next: ", output.FormatAdvice(problem.Remedy));
    }

    private static void WriteText(Problem problem, Output output)
    {
        output.ErrorLine(new Cell("acrate: ", Tone.Attention), new Cell(problem.What, Tone.Strong));
        if (problem.Why.Length > 0) output.ErrorLine("  why: ", problem.Why);
        if (!problem.Remedy.IsEmpty) output.ErrorLine("  next: ", output.FormatAdvice(problem.Remedy));
        foreach (var detail in problem.Details.Take(MostDetails)) output.ErrorLine("    ", output.FormatAdvice(detail));
        if (problem.Details.Count > MostDetails) output.ErrorLine($"    and {problem.Details.Count - MostDetails} more");
    }
}
