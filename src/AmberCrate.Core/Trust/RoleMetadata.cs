namespace AmberCrate.Core.Trust;

/// <summary>What a role says, whichever it is.</summary>
public abstract record RoleMetadata
{
    /// <summary>How far the clock of whoever has signed may be ahead of the reader's.</summary>
    public static readonly TimeSpan ClockGrace = TimeSpan.FromDays(1);

    /// <summary>The version, from 1.</summary>
    public required long Version { get; init; }

    /// <summary>When it ends to be of use.</summary>
    public required DateTimeOffset Expires { get; init; }

    /// <summary>
    /// When it was signed; null where it does not say. The standard does not ask for it; our own metadata have it.
    /// </summary>
    public DateTimeOffset? Issued { get; init; }
}
