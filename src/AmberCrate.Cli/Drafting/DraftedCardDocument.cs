namespace AmberCrate.Cli.Drafting;

/// <summary>A card that has been drafted, as JSON.</summary>
internal sealed record DraftedCardDocument(
    IReadOnlyList<IReadOnlyList<string>> Sources, string Card, string Id, string? Version,
    IReadOnlyList<CardFileDocument> Files, IReadOnlyList<string> Questions,
    IReadOnlyList<string> Missing);
