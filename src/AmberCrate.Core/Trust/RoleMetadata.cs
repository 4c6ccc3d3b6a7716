namespace AmberCrate.Core.Trust;

/// <summary>What a role says, whichever it is.</summary>
public abstract record RoleMetadata
{
    /// <summary>The version, from 1.</summary>
    public required long Version { get; init; }

    /// <summary>When it ends to be of use.</summary>
    public required DateTimeOffset Expires { get; init; }
}
