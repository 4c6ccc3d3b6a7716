namespace AmberCrate.Engine.Catalogues;

/// <summary>
/// Apps of another maintainer that could not be brought up to date with their catalogue: they stay as they were, or are left out.
/// </summary>
/// <param name="Maintainer">The name of the maintainer's role.</param>
/// <param name="Why">The reason.</param>
public sealed record FrozenApps(string Maintainer, string Why);
