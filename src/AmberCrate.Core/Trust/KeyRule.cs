namespace AmberCrate.Core.Trust;

/// <summary>Who must sign a role.</summary>
/// <param name="KeyIds">The keys that count, each once.</param>
/// <param name="Threshold">How many of them must have signed; at least 1.</param>
public sealed record KeyRule(IReadOnlyList<string> KeyIds, int Threshold);
