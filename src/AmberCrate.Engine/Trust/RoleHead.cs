namespace AmberCrate.Engine.Trust;

/// <summary>What every role says of itself.</summary>
/// <param name="Type">Its type: root, targets, snapshot or timestamp.</param>
/// <param name="Version">Its version, from 1.</param>
/// <param name="Now">When it is signed.</param>
/// <param name="Period">For how long it is good.</param>
internal sealed record RoleHead(string Type, long Version, DateTimeOffset Now, TimeSpan Period);
