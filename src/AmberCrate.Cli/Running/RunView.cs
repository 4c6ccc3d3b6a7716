using AmberCrate.Cli.Shared;
using AmberCrate.Cli.Tables;
using AmberCrate.Cli.Terminal;
using AmberCrate.Cli.Texts;
using AmberCrate.Core.Due;
using AmberCrate.Core.Plans;
using AmberCrate.Core.Problems;
using AmberCrate.Core.Runs;
using AmberCrate.Engine.Sessions;

namespace AmberCrate.Cli.Running;

/// <summary>Shows what came of an operation that changes apps.</summary>
internal static class RunView
{
    private const int LongRun = 10;

    /// <summary>Shows a result.</summary>
    public static void Show(Output output, RunResult result)
    {
        switch (result.End)
        {
            case RunEnd.PlanOnly:
                PlanView.ShowOnly(output, result);
                break;
            case RunEnd.CalledOff:
                output.Line("Nothing has been changed.");
                break;
            case RunEnd.NothingLeft:
                ShowNothingLeft(output, result);
                break;
            default:
                ShowReport(output, result);
                break;
        }
    }

    private static void ShowNothingLeft(Output output, RunResult result)
    {
        if (output.IsJson) output.Event(new NothingEvent("nothing"));
        else output.Line(result.Earlier is { } number ? $"Run {number} has left nothing." : "No run has left anything.");
    }

    /// <summary>
    /// Reports how a run ended: the verdict first, then failures with reason and remedy, then what needs attention.
    /// </summary>
    private static void ShowReport(Output output, RunResult result)
    {
        var report = result.Report!;
        if (output.IsJson)
        {
            output.Event(EndsEvent.FromResult(result, output.Call));
            return;
        }

        ShowVerdict(output, report);
        if (report.Items.All(item => !item.Item.Changes) && !output.IsQuiet) ShowUntouched(output, report);
        foreach (var failed in report.Items.Where(item => item.Problem is not null)
            .OrderBy(item => item.Outcome == Outcome.InUse)) ShowFailed(output, failed);
        foreach (var note in Notes(report)) output.Line(new Cell("attention  ", Tone.Attention), note);
        if (report.Unclosed is { } unclosed)
        {
            output.Line(new Cell("attention  ", Tone.Attention), unclosed.What);
            ErrorView.ShowRest(output, unclosed);
        }

        if (report.Items.Any(item => item.Outcome.IsLeft()))
        {
            if (report.Number is { } number) output.Next(NextCommand.Create("retry", $"{number}"));
            if (report.Log is { } log) output.Line(new Cell($"log: {log}", Tone.Quiet));
        }

        ShowStillDue(output, result);
        foreach (var other in result.Remains)
            output.Line(
                new Cell("remains    ", Tone.Attention),
                other.IsProtected ? $"{other.Words}; the system needs it"
                : other.Removal is { } how ? $"{other.Words}; its owner removes it by: {how}" : other.Words);
        if (result.Hint is { } hint && !output.IsQuiet) ShowHint(output, hint);
    }

    /// <summary>What is due although everything due was to be upgraded, each with the reason.</summary>
    private static void ShowStillDue(Output output, RunResult result)
    {
        if (result.StillDue is not { Count: > 0 } still || result.Report!.Number is null || output.IsQuiet) return;
        foreach (var entry in still)
        {
            var item = result.Report.Items.FirstOrDefault(item => item.Item.Id == entry.App.Id.Text);
            var why = entry.State != DueState.Due ? Words.Remark(entry, DateOnly.MinValue)
                : item is null ? "left out" : OutcomeWords.Outcomes.WordOf(item.Outcome);
            output.Line(
                new Cell("still due  ", Tone.Attention),
                $"{entry.App.Id} {entry.Version}, {(entry.Available ?? entry.Newer)?.Release.Version} is available: {why}");
        }
    }

    /// <summary>The verdict of the whole run, which comes first.</summary>
    private static void ShowVerdict(Output output, RunReport report)
    {
        var isBad = report.Interrupted || report.Failures.Any();
        if (output.IsQuiet && !isBad) return;
        output.Line(new Cell(Summary(report), isBad ? Tone.Attention : Tone.Strong));
        if (report.Interrupted) output.Line("Stopped. The remaining apps were not changed.");
        else if (report.Items.Any(item => item.Outcome == Outcome.Failed))
        {
            output.Line(report.Items.Any(item => item.Problem?.LeavesOpen == true)
                ? "Apps that failed were not changed, except those in the middle of a change."
                : "Apps that failed were not changed.");
        }
    }

    private static void ShowFailed(Output output, ItemReport failed)
    {
        var (item, problem) = (failed.Item, failed.Problem!);
        output.Line(
            new Cell(OutcomeWords.Outcomes.WordOf(failed.Outcome), Tone.Attention), "  ",
            failed.Outcome == Outcome.InUse
                ? $"{item.Id} {item.From}"
                : ErrorView.WhatOf(problem, item.Id, $"{item.To ?? item.From}"));
        ErrorView.ShowRest(output, problem);
    }

    private static void ShowUntouched(Output output, RunReport report)
    {
        var untouched = report.Items.Where(item => item.Outcome is not (Outcome.NotOffered or Outcome.Failed)).ToList();
        foreach (var item in untouched.Where(item => PlanView.IsWorthALine(output, item.Item, untouched.Count)))
            output.Line(
                $"{OutcomeWords.Outcomes.WordOf(item.Outcome)}  ", new Cell(item.Item.Id, Tone.Strong),
                $" {item.Item.From}{PlanView.FormatNotes(output, item.Item)}");
    }

    private static void ShowHint(Output output, PathHint hint)
    {
        output.Line(new Cell($"not on PATH: {hint.BinFolder}; start {hint.Command} as {hint.Path}", Tone.Attention));
        output.Line(
            new Cell($"next: add to ~/.profile, and sign in again: export PATH=\"{hint.BinFolder}:$PATH\"", Tone.Attention));
    }

    private static IEnumerable<string> Notes(RunReport report)
    {
        foreach (var item in report.Items.Where(item => item.Outcome.IsDone()))
        {
            foreach (var note in item.Notes) yield return $"{item.Item.Id}: {note}";
            if (!item.Item.Fetches) continue;
            foreach (var call in item.Item.Offer!.Card.Attention ?? []) yield return $"{item.Item.Id}: {Words.WordFor(call)}";
        }
    }

    private static string Summary(RunReport report)
    {
        if (report.Items.Count == 0) return "Nothing to do.";
        var counts = report.Items.GroupBy(item => item.Outcome)
            .OrderBy(group => group.Key)
            .Select(group => $"{group.Count()} {OutcomeWords.Outcomes.WordOf(group.Key)}");
        var nothing = report.Items.All(
            item => item.Outcome is Outcome.Unchanged or Outcome.Pinned && item.Item.Action != PlanAction.Remember);
        var took = report.Took.TotalSeconds >= LongRun ? $", in {Words.Duration(report.Took)}" : "";
        return $"{(nothing ? "Nothing to do: " : "")}{string.Join(", ", counts)}{took}.";
    }
}
