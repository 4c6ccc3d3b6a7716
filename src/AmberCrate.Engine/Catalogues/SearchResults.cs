namespace AmberCrate.Engine.Catalogues;

/// <summary>What a search found.</summary>
/// <param name="Shown">The best ones, as many as were wanted at most.</param>
/// <param name="Total">How many there are.</param>
public sealed record SearchResults(IReadOnlyList<SearchResult> Shown, int Total);
