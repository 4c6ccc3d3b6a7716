namespace AmberCrate.Core.Trust;

/// <summary>The snapshot: which versions of the targets belong together.</summary>
public sealed record SnapshotMetadata : RoleMetadata
{
    /// <summary>What the metadata of each role of targets must be, by the role's name.</summary>
    public required IReadOnlyDictionary<string, MetaRule> Meta { get; init; }
}
