using AmberCrate.Cli.Tables;
using AmberCrate.Cli.Terminal;
using AmberCrate.Cli.Texts;
using AmberCrate.Core.Catalogues;
using AmberCrate.Core.Problems;
using AmberCrate.Core.Runs;
using AmberCrate.Engine.PastRuns;
using AmberCrate.Engine.Records;

namespace AmberCrate.Cli.PastRuns;

/// <summary>Shows what earlier runs did.</summary>
internal static class RunsView
{
    /// <summary>Shows the latest runs.</summary>
    public static void Show(Output output, RunsResult result)
    {
        if (output.IsJson)
        {
            output.Json(RunsDocument.FromResult(result));
            return;
        }

        var table = new TextTable(Shapes.Runs);
        foreach (var run in result.Runs)
        {
            var outcome = Outcome(run, run.Counts);
            var isBad = run.Ended is null || run.IsInterrupted || run.Counts.Any(count => count.Outcome?.IsFailure() != false);
            table.Add(
                new Cell($"{run.Number}", Tone.Strong), DataAge.Ago(run.Begun, result.Now), run.Who ?? "",
                new Cell(outcome, isBad ? Tone.Attention : Tone.Plain), run.Command);
        }

        output.List(
            result.Count == 0 ? "No run is on record." : Words.Count((int)result.Count, "run"), table,
            string.Join("; ", new[]
            {
                result.Count > result.Runs.Count ? $"the latest {result.Runs.Count} are shown; --all lists all" : null,
                result.First > 1 ? $"from run {result.First} on; reclaim removed the earlier ones" : null,
            }.OfType<string>()));
        if (result.Runs.Count > 0) output.Next(NextCommand.Create("runs", $"{result.Runs[0].Number}"));
    }

    /// <summary>Shows one run in full.</summary>
    public static void Show(Output output, RunDetails details)
    {
        if (output.IsJson)
        {
            output.Json(RunDetailsDocument.FromDetails(details));
            return;
        }

        var run = details.Run;
        output.Line(new Cell($"run {run.Number}", Tone.Strong), $"  {run.Command}");
        var who = run.Who is null ? "" : $" by {run.Who}";
        var took = run.Ended is { } ended ? $", took {Words.Duration(ended - run.Begun)}" : "";
        output.Line(new Cell(
            $"{DataAge.Ago(run.Begun, details.Now)}{who}, {PlainText.Time(run.Begun)}{took}", Tone.Quiet));
        var table = new TextTable(Shapes.Run);
        foreach (var item in run.Items)
            table.Add(
                new Cell(RunDocument.Word(item.Outcome), item.IsLeft ? Tone.Attention : Tone.Plain),
                new Cell(item.Reference.Name, Tone.Strong), Words.WordFor(item.Action), item.Before?.Version.Text, item.To?.Text,
                item.Reason);
        output.List(Outcome(run, Counted(run)), table, "");
        foreach (var (catalogue, isDropped) in details.Catalogues)
            output.Line($"catalogue {catalogue.Name} was {(isDropped ? "dropped" : "added")}: {catalogue.Location}");
        if (run.Items.Where(item => item is { HasChanged: true, After.IsUnsigned: true }).ToList() is { Count: > 0 } unsigned)
            output.Line(new Cell(
                $"taken without a signature: {string.Join(", ", unsigned.Select(item => item.Reference.Name))}", Tone.Attention));
        foreach (var (name, since) in run.Expired)
            output.Line(new Cell(
                $"the signatures of {name} had expired {PlainText.Time(since)}; its data were used", Tone.Attention));
        foreach (var pin in details.Pins)
            output.Line(pin.After is { } set ? $"{pin.App}: {set.Words}" : $"{pin.App}: pin lifted");
        ShowLogs(output, details.Logs);
        if (details.IsLeft) output.Next(NextCommand.Create("retry", $"{run.Number}"));
        else if (run.Items.Any(item => item.HasChanged)) output.Next(NextCommand.Create("undo", $"{run.Number}"));
    }

    private static void ShowLogs(Output output, IReadOnlyList<string> logs)
    {
        if (logs.Count == 0)
        {
            output.Line(new Cell("its log is gone", Tone.Quiet));
            return;
        }

        output.Line(new Cell($"log: {logs[0]}", Tone.Quiet));
        if (!output.IsVerbose) return;
        foreach (var line in File.ReadLines(logs[0])) output.Line(line);
    }

    private static IReadOnlyList<(Outcome? Outcome, int Count)> Counted(RecordedRun run) =>
        [.. run.Items.GroupBy(item => item.Outcome).Select(group => (group.Key, group.Count()))];

    private static string Outcome(RecordedRun run, IReadOnlyList<(Outcome? Outcome, int Count)> counts)
    {
        var words = string.Join(", ", counts.OrderBy(count => count.Outcome)
            .Select(count => $"{count.Count} {RunDocument.Word(count.Outcome)}"));
        if (words.Length == 0) words = "nothing to do";
        return run.Ended is null ? $"cut off: {words}" : run.IsInterrupted ? $"stopped: {words}" : words;
    }
}
