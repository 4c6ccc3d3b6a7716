using AmberCrate.Core.Values;

namespace AmberCrate.Core.Machine;

/// <summary>What there is to know of an installed app at a glance.</summary>
public enum AppMark
{
    /// <summary>An upgrade would take a newer version.</summary>
    Outdated,

    /// <summary>One of the newer versions is a security fix.</summary>
    Security,

    /// <summary>Other apps, what it follows, or the platform keep it from something newer.</summary>
    HeldBack,

    /// <summary>It has a pin that holds.</summary>
    Pinned,

    /// <summary>It has a pin that has lapsed.</summary>
    PinLapsed,

    /// <summary>A user has it open.</summary>
    InUse,

    /// <summary>Something that it has placed was changed by hand.</summary>
    Edited,

    /// <summary>Something of it is missing on the disk.</summary>
    Damaged,

    /// <summary>Its catalogue has withdrawn the installed release.</summary>
    Withdrawn,

    /// <summary>Its catalogue has another file by now for the installed version.</summary>
    Changed,

    /// <summary>Its catalogue is paused.</summary>
    CataloguePaused,

    /// <summary>Its catalogue is gone, or offers it no more, or was never refreshed.</summary>
    NotOffered,

    /// <summary>It was pulled in by another app.</summary>
    Dependency,

    /// <summary>It was pulled in by another app, and none needs it any more.</summary>
    NotNeeded,

    /// <summary>It brings itself up to date.</summary>
    UpdatesItself,

    /// <summary>It is uninstalled only after its protection has been lifted.</summary>
    Protected,
}

/// <summary>The words for <see cref="AppMark"/>, for options and JSON.</summary>
public static class MarkWords
{
    /// <summary>A word for each mark.</summary>
    public static WordTable<AppMark> Marks { get; } = new(
        (AppMark.Outdated, "outdated"), (AppMark.Security, "security"), (AppMark.HeldBack, "held-back"), (AppMark.Pinned,
            "pinned"),
        (AppMark.PinLapsed, "pin-lapsed"), (AppMark.InUse, "in-use"), (AppMark.Edited, "edited"), (AppMark.Damaged, "damaged"),
        (AppMark.Withdrawn, "withdrawn"), (AppMark.Changed, "changed"), (AppMark.CataloguePaused, "paused"),
        (AppMark.NotOffered, "not-offered"), (AppMark.Dependency, "dependency"), (AppMark.NotNeeded, "not-needed"),
        (AppMark.UpdatesItself, "self-updating"), (AppMark.Protected, "protected"));
}
