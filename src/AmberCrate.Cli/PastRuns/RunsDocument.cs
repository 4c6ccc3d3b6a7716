using AmberCrate.Cli.Running;
using AmberCrate.Cli.Shared;
using AmberCrate.Cli.Terminal;
using AmberCrate.Cli.Texts;
using AmberCrate.Core.Plans;
using AmberCrate.Core.Runs;
using AmberCrate.Engine.PastRuns;
using AmberCrate.Engine.Records;

namespace AmberCrate.Cli.PastRuns;

/// <summary>The latest runs, as JSON.</summary>
internal sealed record RunsDocument(IReadOnlyList<RunDocument> Runs, long Count, long First, int Format = DocumentFormat.Number)
{
    public static RunsDocument FromResult(RunsResult result) =>
        new([.. result.Runs.Select(RunDocument.FromRun)], result.Count, result.First);
}

/// <summary>A run, as JSON.</summary>
internal record RunDocument(
    long Run, string Command, string? Who, string Begun, string? Ended, bool Interrupted, IReadOnlyDictionary<string,
        int> Outcomes)
{
    public static RunDocument FromRun(RecordedRun run) => new(
        run.Number, run.Command, run.Who, PlainText.Time(run.Begun), run.Ended is { } ended ? PlainText.Time(ended) : null,
        run.IsInterrupted, run.Counts.ToDictionary(count => Word(count.Outcome), count => count.Count));

    public static string Word(Outcome? outcome) =>
        outcome is { } ended ? OutcomeWords.Outcomes.WordOf(ended) : OutcomeWords.NotEnded;
}

/// <summary>A run in full, as JSON.</summary>
internal sealed record RunDetailsDocument(
    long Run, string Command, string? Who, string Begun, string? Ended, bool Interrupted, IReadOnlyList<RunItemDocument> Items,
    IReadOnlyList<RunPinDocument> Pins, IReadOnlyList<RunCatalogueDocument> Catalogues, IReadOnlyList<ExpiredDocument> Expired,
    IReadOnlyList<string> Logs,
    int Format = DocumentFormat.Number)
{
    public static RunDetailsDocument FromDetails(RunDetails details)
    {
        var run = details.Run;
        return new RunDetailsDocument(
            run.Number, run.Command, run.Who, PlainText.Time(run.Begun), run.Ended is { } ended ? PlainText.Time(ended) : null,
            run.IsInterrupted,
            [.. run.Items.Select(item => new RunItemDocument(
                item.Reference.Name, ActionWords.Actions.WordOf(item.Action), item.Before?.Version.Text,
                item.To?.Text, RunDocument.Word(item.Outcome), item.Reason, item.HasChanged && item.After?.IsUnsigned == true))],
            [.. details.Pins.Select(pin => new RunPinDocument(
                pin.App.Text, PinDocument.OfMaybe(pin.Before, isLapsed: false),
                PinDocument.OfMaybe(pin.After, isLapsed: false)))],
            [.. details.Catalogues.Select(one => new RunCatalogueDocument(
                one.Catalogue.Name.Text, one.Catalogue.Location, one.IsDropped))],
            [.. run.Expired.Select(one => new ExpiredDocument(one.Name.Text, PlainText.Time(one.Since)))], details.Logs);
    }
}

/// <summary>An item of a run, as JSON.</summary>
internal sealed record RunItemDocument(string Id, string Action, string? From, string? To, string Outcome, string? Reason,
    bool Unsigned);

/// <summary>A catalogue that a run has added or dropped, as JSON.</summary>
internal sealed record RunCatalogueDocument(string Name, string Location, bool Dropped);
