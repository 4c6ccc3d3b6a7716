namespace AmberCrate.Cli.Running;

/// <summary>The file of an item is there, as a line of JSON.</summary>
internal sealed record FetchedEvent(
    string Event,
    int Number,
    int Count,
    string Id,
    string? Version);
