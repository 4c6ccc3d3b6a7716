using AmberCrate.Cli.Terminal;
using AmberCrate.Engine.Publishing;

namespace AmberCrate.Cli.Drafting;

/// <summary>What was found in cards, as JSON.</summary>
internal sealed record CardCheckDocument(
    int Cards, int Faults, int Warnings, IReadOnlyList<CardFindingDocument> Findings,
    IReadOnlyList<CardTrialDocument> Starts, int Format = DocumentFormat.Number)
{
    public static CardCheckDocument FromChecked(CardsChecked result) => new(
        result.Cards, result.Faults, result.Findings.Count - result.Faults,
        [.. result.Findings.Select(finding => new CardFindingDocument(
            finding.File, finding.Line, finding.Key, finding.Message, finding.IsFault ? "fault" : "warning"))],
        [.. result.Trials.SelectMany(CardTrialDocument.FromTrial)]);
}
