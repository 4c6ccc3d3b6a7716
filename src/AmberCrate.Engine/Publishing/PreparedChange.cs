namespace AmberCrate.Engine.Publishing;

/// <summary>What a role that waits for signatures would change.</summary>
/// <param name="Role">The role's name.</param>
/// <param name="Version">Its version.</param>
/// <param name="Changes">What would be different, a line each.</param>
public sealed record PreparedChange(string Role, long Version, IReadOnlyList<string> Changes);
