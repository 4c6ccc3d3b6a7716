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
    public static CompareDocument Of(AboutResult result, CallOptions call) =>
        new(
            [.. result.Apps.Select(app => AboutAppDocument.Of(app, result, call))],
            CatalogueDataDocument.Of(result.Freshness.States));
}
