using AmberCrate.Core.Machine;
using AmberCrate.Core.Planning;
using AmberCrate.Core.Runs;
using AmberCrate.Core.Values;
using AmberCrate.Engine.Layout;

namespace AmberCrate.Cli.Views;

/// <summary>Reports how a run ended: failures first, with reason and remedy; then what needs attention; then the sum.</summary>
internal static class RunView
{
    private const int LongRun = 10;

    /// <summary>Shows the report.</summary>
    /// <param name="output">Where to.</param>
    /// <param name="report">The report.</param>
    /// <param name="layout">Where everything lies.</param>
    /// <param name="searchPath">The value of PATH.</param>
    public static void Show(Output output, RunReport report, MachineLayout layout, string searchPath)
    {
        foreach (var failed in report.Items.Where(item => item.Problem is not null).OrderBy(item => item.Outcome == Outcome.AppOpen))
        {
            output.Line();
            output.Line(new Cell(Words.Of(failed.Outcome), Tone.Attention), $"  {failed.Item.Id} {failed.Item.To ?? failed.Item.From}: {failed.Problem!.What}");
            if (failed.Problem.Why.Length > 0) output.Line($"  why: {failed.Problem.Why}");
            if (failed.Problem.Remedy.Length > 0) output.Line($"  next: {failed.Problem.Remedy}");
        }

        foreach (var note in Notes(report)) output.Line(new Cell("attention  ", Tone.Attention), note);
        if (report.Items.All(item => !item.Item.Changes))
        {
            foreach (var item in report.Items.Where(item => item.Outcome != Outcome.NotOffered))
                output.Line($"{Words.Of(item.Outcome)}  ", new Cell(item.Item.Id, Tone.Strong), $" {item.Item.From}{(item.Item.Note.Length > 0 ? $"  {item.Item.Note}" : "")}");
        }

        output.Line(Summary(report));
        if (report.Interrupted) output.Line(new Cell("Stopped as you asked; what was not reached is as it was before.", Tone.Attention));
        else if (report.Items.Any(item => item.Outcome == Outcome.Failed)) output.Line("What failed is as it was before.");
        if (report.Items.Any(item => item.Outcome is Outcome.Failed or Outcome.AppOpen or Outcome.Skipped))
        {
            if (report.Number is { } number) output.Line("next: " + CommandText.In(layout.Scope, $"acrate retry {number}"));
            if (report.Log is { } log) output.Line(new Cell($"log: {log}", Tone.Quiet));
        }

        foreach (var hint in StartHints(report, layout, searchPath)) output.Line(new Cell(hint, Tone.Attention));
    }

    /// <summary>Writes how the run ended as the last event.</summary>
    public static void WriteEvent(Output output, RunReport report) => output.Event("ends", json =>
    {
        json.WriteBoolean("interrupted", report.Interrupted);
        json.WriteNumber("exit_code", ExitCodes.Of(report));
        if (report.Number is { } number) json.WriteNumber("run", number);
        else json.WriteNull("run");
        json.WriteString("log", report.Log);
        json.WriteNumber("seconds", Math.Round(report.Took.TotalSeconds, 3));
        json.WriteStartArray("items");
        foreach (var item in report.Items)
        {
            json.WriteStartObject();
            EventView.WriteItem(json, item);
            json.WriteEndObject();
        }

        json.WriteEndArray();
    });

    private static IEnumerable<string> Notes(RunReport report)
    {
        foreach (var item in report.Items.Where(item => item.Outcome == Outcome.Done))
        {
            foreach (var note in item.Notes) yield return $"{item.Item.Id}: {note}";
            if (!item.Item.Fetches) continue;
            foreach (var call in item.Item.Offer!.Card.Attention ?? []) yield return $"{item.Item.Id}: {Words.Of(call)}";
        }
    }

    /// <summary>How to start what was put on where the shell does not find it.</summary>
    private static IEnumerable<string> StartHints(RunReport report, MachineLayout layout, string searchPath)
    {
        if (report.Number is null) yield break;
        var command = report.Items.Where(item => item.Outcome == Outcome.Done && item.Item.Fetches)
            .SelectMany(item => item.Item.Offer!.Card.PlacementOf(item.Item.Release!).Commands).Select(command => command.Name.Text).FirstOrDefault();
        if (command is null || searchPath.Split(':').Any(folder => folder.TrimEnd('/') == layout.BinFolder)) yield break;
        yield return $"not on PATH: {layout.BinFolder}; start {command} as {layout.PathOf(PlaceKind.Command, command)}";
        yield return $"next: add to ~/.profile, and sign in again: export PATH=\"{layout.BinFolder}:$PATH\"";
    }

    private static string Summary(RunReport report)
    {
        if (report.Items.Count == 0) return "Nothing to do.";
        var counts = report.Items.GroupBy(item => item.Outcome).OrderBy(group => group.Key).Select(group => $"{group.Count()} {Words.Of(group.Key)}");
        var nothing = report.Items.All(item => item.Outcome is Outcome.Unchanged or Outcome.Pinned && item.Item.Action != PlanAction.Remember);
        return (nothing ? "Nothing to do: " : "") + string.Join(", ", counts) + (report.Took.TotalSeconds >= LongRun ? $", in {Words.Duration(report.Took)}" : "") + ".";
    }
}
