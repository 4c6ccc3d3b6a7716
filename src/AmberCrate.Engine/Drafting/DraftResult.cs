using AmberCrate.Core.Drafting;

namespace AmberCrate.Engine.Drafting;

/// <summary>A card that has been drafted.</summary>
/// <param name="Sources">The files or addresses of each release, as they were named, those of the newest release first.</param>
/// <param name="Card">The card's file.</param>
/// <param name="Draft">What was found out.</param>
/// <param name="Missing">What the card lacks to be one, as faults; empty where it can be used as it is.</param>
public sealed record DraftResult(
    IReadOnlyList<IReadOnlyList<string>> Sources, string Card, CardDraft Draft, IReadOnlyList<string> Missing)
{
    /// <summary>Files outside the folder of cards, each with the place where the card says that it is.</summary>
    public IReadOnlyList<(string Source, string Place)> Elsewhere { get; init; } = [];
}
