using AmberCrate.Core.Searching;

namespace AmberCrate.Engine.Searching;

/// <summary>What to search for.</summary>
/// <param name="Words">The words; none to list by the filter.</param>
/// <param name="Filter">What an app must be.</param>
/// <param name="Order">The order of the list.</param>
/// <param name="Catalogue">The only catalogue to look into, by name; null for all.</param>
/// <param name="Limit">How many apps to list at most.</param>
/// <param name="Language">The language to search in, in addition to English; null for that of the environment.</param>
public sealed record SearchRequest(
    IReadOnlyList<string> Words, SearchFilter Filter, SearchOrder Order, string? Catalogue, int Limit, string? Language = null);
