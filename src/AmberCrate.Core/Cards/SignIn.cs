namespace AmberCrate.Core.Cards;

/// <summary>Whether an app asks its user to sign in.</summary>
public enum SignIn
{
    /// <summary>Never.</summary>
    None,

    /// <summary>Works without, does more with an account.</summary>
    Optional,

    /// <summary>Does not work without an account.</summary>
    Required,
}
