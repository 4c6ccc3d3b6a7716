using AmberCrate.Cli.Documents;
using AmberCrate.Core.Problems;

namespace AmberCrate.Cli.Views;

/// <summary>Says what went wrong: what, to what, why, and what to do next.</summary>
internal static class ErrorView
{
    private const int MostDetails = 50;

    /// <summary>Shows a problem on standard error, and as JSON too where that was asked for.</summary>
    public static void Show(Output output, Problem problem)
    {
        output.Status("");
        output.Flush();
        WriteText(Console.Error, problem, output);
        if (output.IsJson) output.Json(new ErrorDocument(ProblemDocument.Of(problem, output.Call), ExitCodes.Of(problem.Code)));
    }

    /// <summary>What happened to an app, which is named once only.</summary>
    public static string WhatOf(Problem problem, string app, string version) =>
        problem.What.StartsWith(app + " ", StringComparison.Ordinal) ? problem.What : $"{app} {version}: {problem.What}";

    /// <summary>The lines about why, and what to do, below what happened.</summary>
    public static void ShowRest(Output output, Problem problem)
    {
        if (problem.Why.Length > 0) output.Line($"  why: {problem.Why}");
        if (!problem.Remedy.IsEmpty) output.Line($"  next: {problem.Remedy.In(output.Call)}");
    }

    private static void WriteText(TextWriter text, Problem problem, Output output)
    {
        var call = output.Call;
        text.WriteLine(
            $"{output.OnError("acrate:", Tone.Attention)} {output.OnError(Printable.Line(problem.What), Tone.Strong)}");
        if (problem.Why.Length > 0) text.WriteLine($"  why: {Printable.Line(problem.Why)}");
        if (!problem.Remedy.IsEmpty) text.WriteLine($"  next: {Printable.Line(problem.Remedy.In(call))}");
        foreach (var detail in problem.Details.Take(MostDetails)) text.WriteLine($"    {Printable.Line(detail.In(call))}");
        if (problem.Details.Count > MostDetails) text.WriteLine($"    and {problem.Details.Count - MostDetails} more");
    }
}
