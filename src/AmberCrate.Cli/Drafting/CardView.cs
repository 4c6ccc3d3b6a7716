using AmberCrate.Cli.Shared;
using AmberCrate.Cli.Tables;
using AmberCrate.Cli.Terminal;
using AmberCrate.Cli.Texts;
using AmberCrate.Core.Problems;
using AmberCrate.Core.Trials;
using AmberCrate.Engine.Drafting;
using AmberCrate.Engine.Publishing;

namespace AmberCrate.Cli.Drafting;

/// <summary>Shows what has been written into cards, and what was found in them.</summary>
internal static class CardView
{
    public static void ShowDrafts(Output output, DraftsResult result)
    {
        if (output.IsJson)
        {
            output.Json(CardsDocument.FromDrafts(result, output.Call));
            return;
        }

        foreach (var card in result.Cards)
        {
            output.Line("Wrote ", new Cell(card.Card, Tone.Strong), From(card.Sources));
            foreach (var parts in card.Sources.Where(files => files.Count > 1))
                output.Line(
                    $"  made one app of {string.Join(", ", parts.SkipLast(1))} and {parts[^1]}: "
                        + "these packages depend on each other");
            foreach (var question in card.Draft.Questions) output.Line($"  {question}");
            foreach (var missing in card.Missing) output.Line(new Cell($"  still missing: {missing}", Tone.Attention));
            foreach (var (source, place) in card.Elsewhere) WriteElsewhere(output, source, place);
        }

        foreach (var (source, problem) in result.Failed)
        {
            output.Line(new Cell($"No card from {source}: ", Tone.Attention), problem.What);
            ErrorView.ShowRest(output, problem);
        }

        if (result.Cards.Count > 0) output.Next(NextCommand.Create("card check", Path.GetDirectoryName(result.Cards[^1].Card)!));
    }

    private static string From(IReadOnlyList<IReadOnlyList<string>> sources) => sources.Count == 1
        ? $" from {sources[0][0]}"
        : $" from {sources.Count} files, the newest {sources[0][0]}";

    public static void ShowRelease(Output output, ReleaseResult result)
    {
        var release = result.Release;
        if (output.IsJson)
        {
            output.Json(new CardReleaseDocument(
                result.Card, release.Version!.Text, release.Platform.ToString(), CardFileDocument.ListFor(release)));
            return;
        }

        output.Line($"Added {release.Version} for {release.Platform} to ", new Cell(result.Card, Tone.Strong));
        foreach (var (source, place) in result.Elsewhere) WriteElsewhere(output, source, place);
        output.Next(NextCommand.Create("card check", result.Card));
    }

    public static void ShowChecked(Output output, CardsChecked result)
    {
        if (output.IsJson)
        {
            output.Json(CardCheckDocument.FromChecked(result));
            return;
        }

        foreach (var finding in result.Findings)
        {
            var key = finding.Key.Length > 0 ? $"{finding.Key}: " : "";
            output.Line(
                $"{finding.File}:{finding.Line}: ",
                finding.IsFault ? new Cell("fault: ", Tone.Attention) : new Cell("warning: ", Tone.Quiet), key + finding.Message);
        }

        ShowTrials(output, result.Trials);
        var warnings = result.Findings.Count - result.Faults;
        output.Line($"{Words.Count(result.Cards, "card")} checked: {Words.Count(result.Faults, "fault")}, "
            + Words.Count(warnings, "warning"));
    }

    private static void ShowTrials(Output output, IReadOnlyList<CardTrial> trials)
    {
        if (trials.Count == 0) return;
        var table = new TextTable(Shapes.Trials);
        foreach (var (trial, start) in trials.SelectMany(trial => trial.Starts.Select(start => (trial, start))))
            table.Add(
                new Cell(trial.App.Text, Tone.Strong), trial.Version?.Text, start.Start,
                new Cell(TrialWords.Outcomes.WordOf(start.Outcome),
                    start.Outcome is TrialOutcome.Window or TrialOutcome.Ended ? Tone.Plain : Tone.Attention),
                start.Words);
        var counts = trials.SelectMany(trial => trial.Starts).CountBy(start => start.Outcome).OrderBy(one => one.Key)
            .Select(one => $"{one.Value} {TrialWords.Outcomes.WordOf(one.Key)}");
        output.List("Started to try them: " + Words.Count(trials.Count, "app"), table, string.Join(" · ", counts));
    }

    private static void WriteElsewhere(Output output, string source, string location) =>
        output.Line(new Cell($"  put {source} beside the card as {location}", Tone.Attention));
}
