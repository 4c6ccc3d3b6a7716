using AmberCrate.Cli.Shared;
using AmberCrate.Cli.Terminal;
using AmberCrate.Engine.Listing;
using AmberCrate.Engine.Sessions;

namespace AmberCrate.Cli.Listing;

/// <summary>Installed apps, as JSON.</summary>
internal sealed record ListDocument(
    IReadOnlyList<ListedAppDocument> Apps,
    IReadOnlyList<CatalogueDataDocument> Catalogues,
    int Format = DocumentFormat.Number)
{
    public static ListDocument FromEntries(IEnumerable<ScopedEntry> entries, DataFreshness freshness) =>
        new([.. entries.Select(ListedAppDocument.FromEntry)], CatalogueDataDocument.FromCatalogues(freshness.States));
}
