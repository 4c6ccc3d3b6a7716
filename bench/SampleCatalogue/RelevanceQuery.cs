namespace AmberCrate.SampleCatalogue;

/// <summary>A question of the relevance set, and the app that it asks for.</summary>
/// <param name="Group">What kind of question: exact, partial, split, accent, typo, purpose, two typos.</param>
/// <param name="Words">What a person types.</param>
/// <param name="Expected">The id of the app that is meant.</param>
public sealed record RelevanceQuery(string Group, string Words, string Expected);
