using AmberCrate.Cli.Shared;
using AmberCrate.Cli.Terminal;
using AmberCrate.Cli.Texts;
using AmberCrate.Core.Problems;
using AmberCrate.Engine.Catalogues;
using AmberCrate.Engine.Cataloguing;

namespace AmberCrate.Cli.Cataloguing;

/// <summary>Catalogues, and what has become of them, as JSON.</summary>
internal sealed record CataloguesDocument(
    IReadOnlyList<CatalogueEntryDocument> Catalogues,
    int Format = DocumentFormat.Number)
{
    public static CataloguesDocument FromList(CatalogueList list) =>
        new([.. list.Entries.Select(entry => FromCatalogue(entry.Catalogue, entry.State, (0, 0), null))]);

    public static CataloguesDocument FromRefreshes(IEnumerable<RefreshResult> results, CallOptions call) =>
        new([.. results.Select(
            result => FromCatalogue(
                result.Catalogue, result.State, (result.PartsRead, result.BundlesRead),
                ProblemDocument.OfMaybe(result.Problem, call)))]);

    private static CatalogueEntryDocument FromCatalogue(
        RegisteredCatalogue catalogue, CatalogueState? state, (int Parts, int Bundles) read, ProblemDocument? problem) => new(
        catalogue.Name.Text, catalogue.Location, catalogue.IsPaused,
        catalogue.Trust.Root is null ? catalogue.Trust.Text : "signed", catalogue.Trust.Root?.Hex, state?.Title,
        state is null ? null : PlainText.Time(state.Refreshed), state?.Apps, read.Parts, read.Bundles, problem);
}
