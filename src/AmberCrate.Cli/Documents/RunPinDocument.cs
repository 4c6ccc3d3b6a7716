namespace AmberCrate.Cli.Documents;

/// <summary>A pin that a run has changed, as JSON.</summary>
internal sealed record RunPinDocument(string App, PinDocument? Before, PinDocument? After);
