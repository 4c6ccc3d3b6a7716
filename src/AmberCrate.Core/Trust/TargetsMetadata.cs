namespace AmberCrate.Core.Trust;

/// <summary>Targets: what files are.</summary>
public sealed record TargetsMetadata : RoleMetadata
{
    /// <summary>The name of the role of the top level.</summary>
    public const string TopLevel = "targets";

    /// <summary>The files, by path.</summary>
    public required IReadOnlyDictionary<string, FileRule> Targets { get; init; }

    /// <summary>The keys of the delegated roles, by id.</summary>
    public IReadOnlyDictionary<string, TrustKey> Keys { get; init; } = new Dictionary<string, TrustKey>();

    /// <summary>The delegated roles, in the order they are asked.</summary>
    public IReadOnlyList<Delegation> Delegations { get; init; } = [];
}
