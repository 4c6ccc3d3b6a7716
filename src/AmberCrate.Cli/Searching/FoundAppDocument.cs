namespace AmberCrate.Cli.Searching;

/// <summary>An app that a search has found, as JSON.</summary>
internal sealed record FoundAppDocument(
    string Id,
    string Name,
    string Summary,
    string Type,
    string Catalogue,
    string Scope,
    string? Version,
    string Released,
    string? Installed,
    string? Matched,
    bool Guess,
    int Missing,
    int Machines);
