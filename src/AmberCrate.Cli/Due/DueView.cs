using AmberCrate.Cli.Listing;
using AmberCrate.Cli.Tables;
using AmberCrate.Cli.Terminal;
using AmberCrate.Cli.Texts;
using AmberCrate.Core.Due;
using AmberCrate.Core.Machine;
using AmberCrate.Core.Problems;
using AmberCrate.Core.Requirements;
using AmberCrate.Engine.Listing;

namespace AmberCrate.Cli.Due;

/// <summary>Shows what is outdated, and by how much.</summary>
internal static class DueView
{
    /// <summary>Shows it.</summary>
    /// <param name="output">Where to.</param>
    /// <param name="result">The installed apps.</param>
    /// <param name="withNotes">Whether what is new in each release is shown too.</param>
    public static void Show(Output output, ListResult result, bool withNotes)
    {
        var listed = result.Entries.Where(IsListed).OrderBy(Rank)
            .ThenByDescending(item => item.Entry.DaysBehind).ToList();
        if (output.IsJson)
        {
            output.Json(ListDocument.FromEntries(listed, result.Freshness));
            return;
        }

        var shown = listed.ConvertAll(item => item.Entry);
        var table = new TextTable(Shapes.Due);
        foreach (var item in listed.Where(item => item.Entry.State != DueState.UpdatesItself)) table.Add(RowOf(item, result));
        output.List(Answer(listed, result.Entries.Count), table, Words.Age(result.Freshness));
        foreach (var entry in shown.Where(entry => entry.State == DueState.UpdatesItself))
            output.Line(
                new Cell("updates itself  ", Tone.Quiet), new Cell(entry.App.Id.Text, Tone.Strong),
                $" {entry.Version}, {entry.Available!.Release.Version} is available");
        if (withNotes) ShowNotes(output, shown);
        var changed = shown.Where(entry => entry.State == DueState.Changed).Select(entry => entry.App.Id.Text).ToArray();
        var due = listed.Where(item => item.Entry.State == DueState.Due).ToList();
        if (due.Exists(item => item.Lacks.Count == 0)) output.Next(NextCommand.Create("upgrade"));
        else if (due.Count > 0) output.Next(NextCommand.Create("about", due[0].Entry.App.Id.Text));
        else if (changed.Length > 0) output.Next(NextCommand.Create("upgrade", changed));
    }

    private static bool IsListed(ScopedEntry item) =>
        item.Entry.State != DueState.Current || item.Entry.HeldFix is not null
        || item.Entry.Withdrawn is not null || item.Marks.Contains(AppMark.PinLapsed);

    /// <summary>What matters most comes first.</summary>
    private static int Rank(ScopedEntry item) => item.Entry.State switch
    {
        _ when item.IsFixHeldBack => 0,
        _ when item.Entry.IsSecurity => 1,
        _ when item.Entry.Withdrawn is not null => 2,
        DueState.Due => 3,
        DueState.Changed => 4,
        DueState.HeldBack => 5,
        DueState.Pinned => 6,
        DueState.Follows or DueState.OtherPlatform => 7,
        DueState.UpdatesItself => 9,
        DueState.Current or DueState.Paused or DueState.NotOffered or DueState.NotFetched or DueState.Dropped => 8,
    };

    private static Cell[] RowOf(ScopedEntry item, ListResult result)
    {
        var entry = item.Entry;
        var use = item.IsInUse ? "; in use, so an upgrade waits until it is closed" : "";
        var lacks = item.Lacks.Count == 0 ? ""
            : $"; this system lacks {SystemLack.Name(item.Lacks)}, so an upgrade leaves it out";
        var here = lacks + use + string.Concat(item.AlsoHere.Select(other => $"; also here as {other.Words}"));
        var newer = (entry.Available ?? entry.Newer)?.Release.Version.Text ?? entry.Elsewhere?.Version.Text ?? "";
        var behind = entry.ReleasesBehind == 0
            ? ""
            : $"{Words.Count(entry.ReleasesBehind, "release")}, {Words.Count(entry.DaysBehind, "day")}";
        return
        [
            new Cell(entry.App.Id.Text, Tone.Strong), entry.Version.Text,
            new Cell(newer, entry.State == DueState.Due ? Tone.Attention : Tone.Plain), Released(entry, result.Freshness.Now),
            behind, entry.Available is { } available ? Words.Size(available.Delivery.DownloadSize) : "",
            entry.App.Catalogue.Text,
            new Cell((Words.Remark(entry, result.Today) + here).TrimStart(';', ' '),
                entry.IsSecurity || entry.HeldFix is not null || entry.Withdrawn is not null ? Tone.Attention : Tone.Plain),
        ];
    }

    private static void ShowNotes(Output output, List<DueEntry> shown)
    {
        foreach (var entry in shown)
        {
            foreach (var release in entry.Between)
            {
                output.Line(
                    new Cell($"{entry.App.Id} {release.Version}", Tone.Strong),
                    new Cell($"  {PlainText.Date(release.Date)}{(release.IsSecurityFix ? ", security fix" : "")}", Tone.Quiet));
                output.Paragraphs(release.Notes ?? "no notes", 4);
            }
        }
    }

    private static string Answer(List<ScopedEntry> listed, int count)
    {
        var shown = listed.ConvertAll(item => item.Entry);
        var due = shown.Count(entry => entry.State == DueState.Due);
        var isKnown = !shown.Exists(entry => entry.IsUnknown);
        var apps = Words.Count(count, "app");
        var security = shown.Count(entry => entry.State == DueState.Due && entry.IsSecurity);
        var fixes = security > 0 ? $", {Words.Count(security, "security fix", "security fixes")}" : "";
        var held = Words.HeldFixes(listed);
        return due > 0
            ? $"{due} of {apps} {(due == 1 ? "is" : "are")} due{fixes}{held}"
            : $"{(isKnown ? "Nothing is due" : "As far as is known, nothing is due")} among {apps}{held}";
    }

    /// <summary>For how long the newer one has been there.</summary>
    private static string Released(DueEntry entry, DateTimeOffset now)
    {
        if (((entry.Available ?? entry.Newer)?.Release ?? entry.Elsewhere) is not { } newer) return "";
        var days = DateOnly.FromDateTime(now.UtcDateTime).DayNumber - newer.Date.DayNumber;
        return days switch { < 0 => "", 0 => "today", _ => $"{Words.Count(days, "day")} ago" };
    }
}
