namespace AmberCrate.Engine.Upgrading;

/// <summary>Which apps are upgraded, and how.</summary>
public sealed record UpgradeRequest
{
    /// <summary>Whether only apps are upgraded that have a security fix due.</summary>
    public bool IsSecurityOnly { get; init; }

    /// <summary>Whether dependencies are uninstalled that no app needs afterwards.</summary>
    public bool RemovesUnneeded { get; init; }
}
