namespace AmberCrate.Engine.Indexing;

/// <summary>What a search found.</summary>
/// <param name="Shown">The best ones, as many as were wanted at most.</param>
/// <param name="Matches">How many match as it is spelled.</param>
/// <param name="Guesses">How many match if a letter or two are wrong, and were looked for: where there are few
/// matches or none.</param>
/// <param name="Partly">How many have most of the words and not all, and were looked for: where nothing fits well that has
/// all.</param>
public sealed record SearchResults(IReadOnlyList<SearchResult> Shown, int Matches, int Guesses, int Partly = 0)
{
    /// <summary>How many there are.</summary>
    public int Total => Matches + Guesses + Partly;
}
