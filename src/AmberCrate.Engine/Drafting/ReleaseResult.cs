using AmberCrate.Core.Drafting;

namespace AmberCrate.Engine.Drafting;

/// <summary>A release that has been added to a card.</summary>
/// <param name="Card">The card's file, as it was named.</param>
/// <param name="Release">The release.</param>
public sealed record ReleaseResult(string Card, ReleaseDraft Release)
{
    /// <summary>Whether the file is outside the folder of cards, so that it must be put where the card says.</summary>
    public bool IsElsewhere { get; init; }
}
