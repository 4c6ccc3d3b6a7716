namespace AmberCrate.Core.Trust;

/// <summary>The root: which keys belong to which role.</summary>
public sealed record RootMetadata : RoleMetadata
{
    /// <summary>The keys, by id.</summary>
    public required IReadOnlyDictionary<string, TrustKey> Keys { get; init; }

    /// <summary>Who must sign each of the four roles of the top level.</summary>
    public required IReadOnlyDictionary<TrustRole, KeyRule> Roles { get; init; }

    /// <summary>Whether files carry versions and digests in their names.</summary>
    public required bool IsConsistent { get; init; }
}
