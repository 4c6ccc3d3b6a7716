namespace AmberCrate.Engine.Trust;

/// <summary>The names of the roles of the top level, except targets.</summary>
internal static class TrustWords
{
    /// <summary>A role's name.</summary>
    public const string Root = "root", Snapshot = "snapshot", Timestamp = "timestamp";
}
