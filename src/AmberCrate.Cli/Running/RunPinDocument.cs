using AmberCrate.Cli.Shared;

namespace AmberCrate.Cli.Running;

/// <summary>A pin that a run has changed, as JSON.</summary>
internal sealed record RunPinDocument(string App, PinDocument? Before, PinDocument? After);
