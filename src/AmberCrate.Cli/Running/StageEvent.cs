namespace AmberCrate.Cli.Running;

/// <summary>A stage of an item begins, as a line of JSON.</summary>
internal sealed record StageEvent(
    string Event,
    int Number,
    int Count,
    string Id,
    string? Version,
    string Stage);
