namespace AmberCrate.Core.Searching;

/// <summary>The index's data about a word of a query.</summary>
/// <param name="Forms">Other words of the index with the same stem.</param>
/// <param name="Importance">How telling it is, from 0 to 1: the rarer, the more.</param>
/// <param name="Beginning">The words of the index that begin with it; null where they are many, or not known.</param>
public sealed record WordFacts(
    IReadOnlyList<string> Forms, double Importance, IReadOnlyList<string>? Beginning = null);
