namespace AmberCrate.Engine.Catalogues;

/// <summary>One app found by a search.</summary>
/// <param name="Offer">The app, as the most preferred catalogue offers it.</param>
/// <param name="Match">Why and how well it matches.</param>
public sealed record SearchResult(Core.Planning.Offer Offer, Core.Searching.SearchMatch Match);
