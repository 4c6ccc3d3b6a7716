namespace AmberCrate.Cli.Running;

/// <summary>A download waits before it is tried again, as a line of JSON.</summary>
internal sealed record WaitsEvent(
    string Event,
    int Number,
    int Count,
    string Id,
    string? Version,
    double Seconds,
    string Why);
