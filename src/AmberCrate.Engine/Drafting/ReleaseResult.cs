using AmberCrate.Core.Drafting;

namespace AmberCrate.Engine.Drafting;

/// <summary>A release that has been added to a card.</summary>
/// <param name="Card">The card's file, as it was named.</param>
/// <param name="Release">The release.</param>
public sealed record ReleaseResult(string Card, ReleaseDraft Release)
{
    /// <summary>Files outside the folder of cards, each with the place where the card says that it is.</summary>
    public IReadOnlyList<(string Source, string Place)> Elsewhere { get; init; } = [];
}
