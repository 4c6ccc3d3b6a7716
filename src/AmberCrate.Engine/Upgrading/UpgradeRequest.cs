namespace AmberCrate.Engine.Upgrading;

/// <summary>Which apps are upgraded, and what goes with that.</summary>
public sealed record UpgradeRequest
{
    /// <summary>Whether only apps are upgraded for which a security fix is due.</summary>
    public bool IsSecurityOnly { get; init; }

    /// <summary>Whether dependencies are uninstalled that no app needs afterwards.</summary>
    public bool RemovesUnneeded { get; init; }
}
