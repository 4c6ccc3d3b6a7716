namespace AmberCrate.Core.Values;

/// <summary>How people speak of scopes.</summary>
public static class ScopeText
{
    /// <summary>Whom a scope is for: "for you".</summary>
    public static string For(InstallScope scope) => scope == InstallScope.AllUsers ? "for all users" : "for you";
}
