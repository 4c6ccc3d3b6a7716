namespace AmberCrate.Core.Trust;

/// <summary>The timestamp: which snapshot is the newest.</summary>
public sealed record TimestampMetadata : RoleMetadata
{
    /// <summary>What the snapshot must be.</summary>
    public required MetaRule Snapshot { get; init; }
}
