namespace AmberCrate.Core.Searching;

/// <summary>Why and how well an app matches a query.</summary>
/// <param name="Field">The weakest part of the card that was needed to find every word.</param>
/// <param name="Weight">The higher, the better; only its order means anything.</param>
/// <param name="IsGuess">Whether letters of the query had to count as wrong.</param>
/// <param name="Missing">How many words of the query were found nowhere in it.</param>
public sealed record SearchMatch(SearchField Field, int Weight, bool IsGuess = false, int Missing = 0)
{
    /// <summary>Whether a word was found nowhere but in a category, a developer's name or the description.</summary>
    public bool IsVague => Field > SearchField.Summary;
}
