using AmberCrate.Core.Searching;
using AmberCrate.Core.Values;

namespace AmberCrate.Engine.Indexing;

/// <summary>The words, the places and the order of a search.</summary>
/// <param name="Query">The words.</param>
/// <param name="Filter">What narrows the search.</param>
/// <param name="Order">The order of the results.</param>
/// <param name="Catalogues">The catalogues to look in, in order of preference.</param>
/// <param name="InstalledIds">The ids of what is installed, for a filter by that.</param>
/// <param name="Limit">How many results are wanted at most.</param>
public sealed record IndexQuery(
    SearchQuery Query,
    SearchFilter Filter,
    SearchOrder Order,
    IReadOnlyList<CatalogueName> Catalogues,
    IReadOnlyCollection<string> InstalledIds,
    int Limit)
{
    /// <summary>
    /// Whether no word was given, so that everything is listed that the filter lets through. Words that find nothing when
    /// folded find nothing.
    /// </summary>
    public bool IsListing { get; init; }

    /// <summary>The languages that the user reads other than English, the most exact first.</summary>
    public IReadOnlyList<string> Languages { get; init; } = [];

    /// <summary>The ids of apps that are not wanted.</summary>
    public IReadOnlyCollection<string> WithoutIds { get; init; } = [];

    /// <summary>A search for words only.</summary>
    public static IndexQuery For(SearchQuery query, IReadOnlyList<CatalogueName> catalogues, int limit = 20) =>
        new(query, new SearchFilter(), SearchOrder.Match, catalogues, [], limit);
}
