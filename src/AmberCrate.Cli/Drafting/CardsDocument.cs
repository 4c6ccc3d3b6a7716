using AmberCrate.Cli.Shared;
using AmberCrate.Cli.Terminal;
using AmberCrate.Core.Problems;
using AmberCrate.Engine.Drafting;

namespace AmberCrate.Cli.Drafting;

/// <summary>Cards that have been drafted, as JSON.</summary>
internal sealed record CardsDocument(
    IReadOnlyList<DraftedCardDocument> Cards, IReadOnlyList<FailedFileDocument> Failed, int Format = DocumentFormat.Number)
{
    public static CardsDocument FromDrafts(DraftsResult result, CallOptions call) => new(
        [.. result.Cards.Select(FromDraft)],
        [
            .. result.Failed.Select(
                failed => new FailedFileDocument(failed.Source, ProblemDocument.FromProblem(failed.Problem, call))),
        ]);

    private static DraftedCardDocument FromDraft(DraftResult result) => new(
        result.Sources, result.Card, result.Draft.Id.Text, result.Draft.Release.Version?.Text,
        CardFileDocument.ListFor(result.Draft.Release),
        result.Draft.Questions, result.Missing);
}
