using AmberCrate.Core.Values;

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

/// <content>The words for <see cref="SignIn"/>.</content>
public static partial class CardWords
{
    /// <summary>Sign-in needs.</summary>
    public static WordTable<SignIn> SignIns { get; } = new(
        (SignIn.None, "none"),
        (SignIn.Optional, "optional"),
        (SignIn.Required, "required"));
}
