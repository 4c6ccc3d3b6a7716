namespace AmberCrate.Engine.Trust;

/// <summary>What has been signed.</summary>
/// <param name="Published">The roles that machines read now, in the order they were published.</param>
/// <param name="Waiting">The roles that still lack signatures.</param>
public sealed record Signing(IReadOnlyList<string> Published, IReadOnlyList<WaitingRole> Waiting);
