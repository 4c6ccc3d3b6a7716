using AmberCrate.Core.Searching;
using AmberCrate.Core.Values;
using AmberCrate.Engine.Catalogues;
using AmberCrate.Engine.Indexing;

namespace AmberCrate.Engine.Tests.Catalogues;

internal static class CacheListing
{
    private const int MoreThanThereAre = 100_000;

    /// <summary>Every id in a catalogue, as a search without words lists them.</summary>
    public static IReadOnlyList<string> Ids(this CatalogueCache cache, CatalogueName catalogue) =>
        [.. cache.Search(IndexQuery.For(SearchQuery.Parse([]), [catalogue], MoreThanThereAre) with { IsListing = true }).Shown
            .Select(result => result.Id.Text)];
}
