namespace AmberCrate.Core.Due;

/// <summary>How an installed app stands to what is offered.</summary>
public enum DueState
{
    /// <summary>Nothing newer is offered.</summary>
    Current,

    /// <summary>Something newer is offered that belongs to what it follows.</summary>
    Due,

    /// <summary>
    /// Nothing newer is offered of what it follows, and its catalogue has by now another file for the version that is installed.
    /// </summary>
    Changed,

    /// <summary>Something newer is offered that belongs to what it follows, and a pin holds it.</summary>
    Pinned,

    /// <summary>Something newer is offered, and the app follows a version, range or line that it does not belong to.</summary>
    Follows,

    /// <summary>Something newer is offered that belongs to what it follows, and other apps do not allow it.</summary>
    HeldBack,

    /// <summary>Something newer is offered, and the app brings itself up to date.</summary>
    UpdatesItself,

    /// <summary>Something newer is offered, but no file of it for this machine.</summary>
    OtherPlatform,

    /// <summary>Its catalogue is paused, so that nothing can be said.</summary>
    Paused,

    /// <summary>Its catalogue does not offer the app any more.</summary>
    NotOffered,

    /// <summary>Its catalogue has not been fetched yet, or what was fetched is lost, so that nothing can be said.</summary>
    NotFetched,

    /// <summary>Its catalogue is not here any more.</summary>
    Dropped,
}
