namespace AmberCrate.Engine.Fetching;

/// <summary>How artifacts are fetched.</summary>
public sealed record TransferSettings
{
    /// <summary>How many transfers run at a time unless set otherwise.</summary>
    public const int UsualAtOnce = 4;

    /// <summary>How many bytes the cache may hold unless set otherwise.</summary>
    public const long UsualCacheSize = 10L << 30;

    /// <summary>How many transfers run at a time.</summary>
    public int AtOnce { get; init; } = UsualAtOnce;

    /// <summary>How many bytes may arrive in a second, all transfers together; null for no limit.</summary>
    public long? Bandwidth { get; init; }

    /// <summary>When a transfer is tried again.</summary>
    public RetryRule Retries { get; init; } = RetryRule.Usual;

    /// <summary>How many bytes of artifacts the cache keeps when a run has ended.</summary>
    public long CacheSize { get; init; } = UsualCacheSize;
}
