using AmberCrate.Cli.Terminal;

namespace AmberCrate.Cli.Running;

/// <summary>There is nothing of an earlier run to retry, as a line of JSON.</summary>
internal sealed record NothingEvent(
    string Event,
    int Format = DocumentFormat.Number);
