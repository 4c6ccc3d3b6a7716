using AmberCrate.Core.Drafting;

namespace AmberCrate.Engine.Operations;

/// <summary>A card that has been drafted.</summary>
/// <param name="Source">The file or address, as it was named.</param>
/// <param name="Card">The card's file.</param>
/// <param name="Draft">What was found out.</param>
/// <param name="Missing">What the card lacks to be one, as faults; empty where it can be used as it is.</param>
public sealed record DraftResult(string Source, string Card, CardDraft Draft, IReadOnlyList<string> Missing)
{
    /// <summary>Whether the file lies outside the folder of cards, so that it must be put where the card says.</summary>
    public bool IsElsewhere { get; init; }
}
