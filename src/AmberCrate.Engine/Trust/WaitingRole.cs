namespace AmberCrate.Engine.Trust;

/// <summary>A role that has been written and is not published, since it lacks signatures.</summary>
/// <param name="Name">Its name.</param>
/// <param name="Version">Its version.</param>
/// <param name="Signatures">How many keys that count have signed.</param>
/// <param name="Needed">How many must.</param>
public sealed record WaitingRole(string Name, long Version, int Signatures, int Needed);
