using AmberCrate.Engine.Operations;

namespace AmberCrate.Cli.Documents;

/// <summary>Installed apps, as JSON.</summary>
internal sealed record ListDocument(
    IReadOnlyList<ListedAppDocument> Apps,
    IReadOnlyList<CatalogueDataDocument> Catalogues,
    int Format = DocumentFormat.Number)
{
    public static ListDocument Of(IEnumerable<ScopedEntry> entries, DataStanding standing) =>
        new([.. entries.Select(ListedAppDocument.Of)], CatalogueDataDocument.Of(standing.States));
}
