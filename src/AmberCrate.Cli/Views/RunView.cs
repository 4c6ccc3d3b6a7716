using AmberCrate.Core.Planning;
using AmberCrate.Core.Runs;

namespace AmberCrate.Cli.Views;

/// <summary>Reports how a run ended: failures first, with reason and remedy.</summary>
internal static class RunView
{
    public static void Show(Output output, RunReport report)
    {
        foreach (var failed in report.Items.Where(item => item.Outcome == Outcome.Failed))
        {
            output.Line();
            output.Line(new Cell("failed", Tone.Attention), $"  {failed.Item.Id} {failed.Item.To}: {failed.Problem!.What}");
            if (failed.Problem.Why.Length > 0) output.Line($"  why: {failed.Problem.Why}");
            if (failed.Problem.Remedy.Length > 0) output.Line($"  next: {failed.Problem.Remedy}");
        }

        if (report.Items.All(item => !item.Item.Changes))
        {
            foreach (var item in report.Items.Where(item => item.Outcome != Outcome.NotOffered))
                output.Line($"{Words.Of(item.Outcome)}  ", new Cell(item.Item.Id, Tone.Strong), $" {item.Item.From}{(item.Item.Note.Length > 0 ? $"  {item.Item.Note}" : "")}");
        }

        output.Line(Summary(report));
        if (report.Interrupted) output.Line(new Cell("Stopped as you asked; what was not reached is as it was before.", Tone.Attention));
        else if (report.Items.Any(item => item.Outcome == Outcome.Failed)) output.Line("What failed is as it was before; the same command tries it again.");
    }

    /// <summary>Writes how the run ended as the last event.</summary>
    public static void WriteEvent(Output output, RunReport report) => output.Event("ends", json =>
    {
        json.WriteBoolean("interrupted", report.Interrupted);
        json.WriteNumber("exit_code", ExitCodes.Of(report));
        json.WriteStartArray("items");
        foreach (var item in report.Items)
        {
            json.WriteStartObject();
            EventView.WriteItem(json, item);
            json.WriteEndObject();
        }

        json.WriteEndArray();
    });

    private static string Summary(RunReport report)
    {
        if (report.Items.Count == 0) return "Nothing to do.";
        var counts = report.Items.GroupBy(item => item.Outcome).OrderBy(group => group.Key).Select(group => $"{group.Count()} {Words.Of(group.Key)}");
        var nothing = report.Items.All(item => item.Outcome is Outcome.Unchanged or Outcome.Pinned && item.Item.Action != PlanAction.Remember);
        return (nothing ? "Nothing to do: " : "") + string.Join(", ", counts) + ".";
    }
}
