namespace AmberCrate.Core.Due;

/// <summary>What a card states differently since its app was installed, so that the user may want to decide again.</summary>
public enum CardChangeKind
{
    /// <summary>The licence is another, or is not stated any more.</summary>
    Licence,

    /// <summary>A licence key is now needed.</summary>
    LicenceKey,

    /// <summary>A sign-in is now needed.</summary>
    SignIn,

    /// <summary>Another developer makes it, or the card does not name one any more.</summary>
    Developer,

    /// <summary>Its homepage has moved.</summary>
    Homepage,
}
