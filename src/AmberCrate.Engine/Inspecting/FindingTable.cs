namespace AmberCrate.Engine.Inspecting;

/// <summary>What there is to know of each kind of finding: one row each.</summary>
public static class FindingTable
{
    /// <summary>The rows, in the order of the page.</summary>
    public static IReadOnlyList<FindingRow> Rows { get; } =
    [
        new(FindingKind.ShelfMissing, FindingWeight.Broken, "a file of an installed version is gone, or has another size",
            "check --repair"),
        new(FindingKind.ShelfChanged, FindingWeight.Broken, "--deep: a file of an installed version has another content",
            "check --repair"),
        new(FindingKind.PlaceMissing, FindingWeight.Broken, "a command, a menu entry or the link to the version is gone",
            "check --repair"),
        new(FindingKind.Moved, FindingWeight.Broken, "menu entries name the folder of commands as it was called before",
            "check --repair"),
        new(FindingKind.Unfinished, FindingWeight.Broken, "a change of an app was cut off", "check --repair"),
        new(FindingKind.RecordsOlder, FindingWeight.Broken, "the shelf has apps that are not in the records", "check --repair"),
        new(FindingKind.RecordUnreadable, FindingWeight.Broken, "the record of an app cannot be read", "see the finding"),
        new(FindingKind.CannotStart, FindingWeight.Broken, "a command needs a library or an interpreter that is not there",
            "install it from the system's packages"),
        new(FindingKind.NeedMissing, FindingWeight.Broken, "an app needs another one that is not installed", "install that app"),
        new(FindingKind.PlaceChanged, FindingWeight.Attention, "a menu entry or command was changed by hand",
            "keep it, or move it away and check --repair"),
        new(FindingKind.RunLeft, FindingWeight.Attention, "a run was stopped, or apps in it failed", "retry"),
        new(FindingKind.SecurityHeldBack, FindingWeight.Attention, "an upgrade does not bring a security fix",
            "lift the pin, or install the fix"),
        new(FindingKind.Withdrawn, FindingWeight.Attention, "a catalogue has withdrawn an installed release",
            "upgrade, install another release, or uninstall"),
        new(FindingKind.PinLapsed, FindingWeight.Attention, "the last day of a pin is over", "pin --lift, or pin it again"),
        new(FindingKind.Shadowed, FindingWeight.Attention, "a shell finds another program under the name of a command",
            "remove that program, or change PATH"),
        new(FindingKind.NotOnPath, FindingWeight.Attention, "the folder of commands is not on PATH", "add it to ~/.profile"),
        new(FindingKind.CatalogueUnreachable, FindingWeight.Attention, "a catalogue could not be reached at the last try",
            "catalogue refresh"),
        new(FindingKind.CatalogueExpired, FindingWeight.Attention, "the signatures of a catalogue had expired at the last try",
            "ask its maintainer to renew them, then catalogue refresh"),
        new(FindingKind.CatalogueNotVerified, FindingWeight.Attention, "a catalogue did not verify at the last try",
            "catalogue refresh, or report it to its maintainer"),
        new(FindingKind.CatalogueStale, FindingWeight.Attention, "catalogue data are older than `refresh_hours`",
            "catalogue refresh"),
        new(FindingKind.LowRoom, FindingWeight.Attention, "less than 512 MiB are free", "reclaim"),
        new(FindingKind.Permissions, FindingWeight.Attention, "other users can write to a folder of acrate", "chmod"),
        new(FindingKind.NotNeeded, FindingWeight.Hint, "no app needs a dependency any more", "uninstall"),
        new(FindingKind.CatalogueUnsigned, FindingWeight.Hint, "a published catalogue is not signed",
            "have its maintainer sign it"),
        new(FindingKind.Leftovers, FindingWeight.Hint, "an earlier run left files", "reclaim"),
        new(FindingKind.NewerAcrate, FindingWeight.Hint, "a catalogue offers a newer acrate", "about acrate"),
    ];

    private static readonly Dictionary<FindingKind, FindingRow> ByKind = Rows.ToDictionary(row => row.Kind);

    /// <summary>The rows as a table for a page.</summary>
    public static string Markdown => string.Join('\n', Rows
        .Select(row => $"| `{FindingWords.Kinds.WordOf(row.Kind)}` | {FindingWords.Weights.WordOf(row.Weight)} | {row.Means} "
            + $"| {row.Remedy} |")
        .Prepend("|---|---|---|---|").Prepend("| Finding | Weight | What was seen | What helps |"));

    /// <summary>The row of a kind.</summary>
    public static FindingRow RowFor(FindingKind kind) => ByKind[kind];
}
