namespace AmberCrate.Cli.Publishing;

/// <summary>A role that lacks signatures, as JSON.</summary>
internal sealed record WaitingDocument(string Role, long Version, int Signatures, int Needed);
