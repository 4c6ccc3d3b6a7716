namespace AmberCrate.Core.Searching;

/// <summary>What people want to do, and the apps that do it.</summary>
/// <param name="Asked">How they ask for it: phrases, each as the stems of its words.</param>
/// <param name="Categories">Categories whose apps do it, folded and in one word. Where several stand together, all are
/// needed.</param>
/// <param name="Words">Words in whose name, keywords or summary such an app may be told, folded.</param>
public sealed record Purpose(
    IReadOnlyList<IReadOnlyList<string>> Asked, IReadOnlyList<IReadOnlyList<string>> Categories, IReadOnlyList<string> Words);
