using AmberCrate.Core.Values;

namespace AmberCrate.Engine.Inspecting;

/// <summary>What a check can find.</summary>
public enum FindingKind
{
    /// <summary>A version on the shelf is gone, or has lost files.</summary>
    ShelfMissing,

    /// <summary>A file of a version on the shelf has another content than it had.</summary>
    ShelfChanged,

    /// <summary>Something that was placed is gone, or the link to the live version is.</summary>
    PlaceMissing,

    /// <summary>Something that was placed has been changed or replaced.</summary>
    PlaceChanged,

    /// <summary>A command cannot start, since the machine lacks something.</summary>
    CannotStart,

    /// <summary>A shell finds another program under the name of a command.</summary>
    Shadowed,

    /// <summary>The folder of commands is not on PATH.</summary>
    NotOnPath,

    /// <summary>An app is in the middle of a change.</summary>
    Unfinished,

    /// <summary>A run left apps undone.</summary>
    RunLeft,

    /// <summary>The records and the disk differ.</summary>
    RecordsOlder,

    /// <summary>A menu entry names a folder that was moved.</summary>
    Moved,

    /// <summary>A pin has lapsed.</summary>
    PinLapsed,

    /// <summary>A dependency that no app needs any more.</summary>
    NotNeeded,

    /// <summary>An app needs another one that is not there.</summary>
    NeedMissing,

    /// <summary>A catalogue could not be reached at the last try.</summary>
    CatalogueUnreachable,

    /// <summary>The data of a catalogue are old.</summary>
    CatalogueStale,

    /// <summary>The data of a catalogue are not signed.</summary>
    CatalogueUnsigned,

    /// <summary>A file system is nearly full.</summary>
    LowRoom,

    /// <summary>Others may write where only the owner should.</summary>
    Permissions,

    /// <summary>Files that an earlier run has left.</summary>
    Leftovers,

    /// <summary>A release has been withdrawn by its catalogue.</summary>
    Withdrawn,

    /// <summary>There is a security fix that an upgrade does not bring.</summary>
    SecurityHeldBack,

    /// <summary>The signatures of a catalogue have expired.</summary>
    CatalogueExpired,

    /// <summary>A catalogue does not verify.</summary>
    CatalogueNotVerified,

    /// <summary>A catalogue has a newer acrate.</summary>
    NewerAcrate,

    /// <summary>The record of an app cannot be read.</summary>
    RecordUnreadable,
}

/// <summary>The words for <see cref="FindingKind"/> and <see cref="FindingWeight"/>, in JSON.</summary>
public static class FindingWords
{
    /// <summary>A word for each kind.</summary>
    public static WordTable<FindingKind> Kinds { get; } = new(
        (FindingKind.ShelfMissing, "shelf-missing"), (FindingKind.ShelfChanged, "shelf-changed"),
        (FindingKind.PlaceMissing, "place-missing"), (FindingKind.PlaceChanged, "place-changed"),
        (FindingKind.CannotStart, "cannot-start"), (FindingKind.Shadowed, "shadowed"), (FindingKind.NotOnPath, "not-on-path"),
        (FindingKind.Unfinished, "unfinished"), (FindingKind.RunLeft, "run-left"),
        (FindingKind.RecordsOlder, "records-older"), (FindingKind.Moved, "moved"),
        (FindingKind.PinLapsed, "pin-lapsed"), (FindingKind.NotNeeded, "not-needed"), (FindingKind.NeedMissing, "need-missing"),
        (FindingKind.CatalogueUnreachable, "catalogue-unreachable"), (FindingKind.CatalogueStale, "catalogue-stale"),
        (FindingKind.CatalogueUnsigned, "catalogue-unsigned"), (FindingKind.LowRoom, "low-room"),
        (FindingKind.Permissions, "permissions"), (FindingKind.Leftovers, "leftovers"), (FindingKind.Withdrawn, "withdrawn"),
        (FindingKind.SecurityHeldBack, "security-held-back"), (FindingKind.CatalogueExpired, "catalogue-expired"),
        (FindingKind.CatalogueNotVerified, "catalogue-not-verified"), (FindingKind.NewerAcrate, "newer-acrate"),
        (FindingKind.RecordUnreadable, "record-unreadable"));

    /// <summary>A word for each weight.</summary>
    public static WordTable<FindingWeight> Weights { get; } = new(
        (FindingWeight.Broken, "broken"), (FindingWeight.Attention, "attention"), (FindingWeight.Hint, "hint"));
}
