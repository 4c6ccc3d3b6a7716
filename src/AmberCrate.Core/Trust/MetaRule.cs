namespace AmberCrate.Core.Trust;

/// <summary>What the metadata of a role must be, as another role says it.</summary>
/// <param name="Version">The version.</param>
/// <param name="File">The file.</param>
public sealed record MetaRule(long Version, FileRule File);
