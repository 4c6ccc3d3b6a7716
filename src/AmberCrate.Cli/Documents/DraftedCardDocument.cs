namespace AmberCrate.Cli.Documents;

/// <summary>A card that has been drafted, as JSON.</summary>
internal sealed record DraftedCardDocument(
    string Source, string Card, string Id, string? Version, string Location, IReadOnlyList<string> Questions,
    IReadOnlyList<string> Missing);
