using AmberCrate.Core.Problems;

namespace AmberCrate.Cli.Views;

/// <summary>Says what went wrong: what, to what, why, and what to do next.</summary>
internal static class ErrorView
{
    /// <summary>Shows a problem on standard error, and as JSON too where that was asked for.</summary>
    public static void Show(Output output, Problem problem)
    {
        output.Status("");
        output.Flush();
        WriteText(Console.Error, problem);
        if (!output.IsJson) return;
        output.Json(json =>
        {
            json.WriteStartObject();
            json.WriteStartObject("error");
            json.WriteFields(problem);
            json.WriteEndObject();
            json.WriteNumber("exit_code", ExitCodes.Of(problem.Code));
            json.WriteEndObject();
        });
    }

    private static void WriteText(TextWriter text, Problem problem)
    {
        text.WriteLine($"acrate: {Printable.Line(problem.What)}");
        if (problem.Why.Length > 0) text.WriteLine($"  why: {Printable.Line(problem.Why)}");
        if (problem.Remedy.Length > 0) text.WriteLine($"  next: {Printable.Line(problem.Remedy)}");
        foreach (var detail in problem.Details) text.WriteLine($"    {Printable.Line(detail)}");
    }
}
