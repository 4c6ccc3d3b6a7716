namespace AmberCrate.Core.Values;

/// <summary>The words for <see cref="InstallScope"/>, in records and JSON.</summary>
public static class ScopeWords
{
    /// <summary>A word for each scope.</summary>
    public static WordTable<InstallScope> Scopes { get; } = new(
        (InstallScope.ThisUser, "user"), (InstallScope.AllUsers, "all-users"));
}
