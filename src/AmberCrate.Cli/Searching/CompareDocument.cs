using AmberCrate.Cli.Shared;
using AmberCrate.Cli.Terminal;
using AmberCrate.Core.Problems;
using AmberCrate.Engine.Searching;

namespace AmberCrate.Cli.Searching;

/// <summary>Several apps side by side, as JSON.</summary>
internal sealed record CompareDocument(
    IReadOnlyList<AboutAppDocument> Apps,
    IReadOnlyList<CatalogueDataDocument> Catalogues,
    int Format = DocumentFormat.Number)
{
    public static CompareDocument FromResult(AboutResult result, CallOptions call) =>
        new(
            [.. result.Apps.Select(app => AboutAppDocument.FromApp(app, result, call))],
            CatalogueDataDocument.FromCatalogues(result.Freshness.States));
}
