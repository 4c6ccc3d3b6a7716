using AmberCrate.Engine.Operations;

namespace AmberCrate.Cli.Documents;

/// <summary>Cards that have been drafted, as JSON.</summary>
internal sealed record CardsDocument(IReadOnlyList<DraftedCardDocument> Cards, int Format = DocumentFormat.Number)
{
    public static CardsDocument Of(IReadOnlyList<DraftResult> results) => new([.. results.Select(Of)]);

    private static DraftedCardDocument Of(DraftResult result) => new(
        result.Source, result.Card, result.Draft.Id.Text, result.Draft.Release.Version?.Text, result.Draft.Release.Location,
        result.Draft.Questions, result.Missing);
}
