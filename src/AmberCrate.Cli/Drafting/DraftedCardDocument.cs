namespace AmberCrate.Cli.Drafting;

/// <summary>A card that has been drafted, as JSON.</summary>
internal sealed record DraftedCardDocument(
    IReadOnlyList<string> Sources, string Card, string Id, string? Version, string Location, IReadOnlyList<string> Questions,
    IReadOnlyList<string> Missing);
