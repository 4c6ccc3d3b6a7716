using AmberCrate.Cli.Documents;
using AmberCrate.Core.Planning;
using AmberCrate.Core.Problems;
using AmberCrate.Engine.Operations;

namespace AmberCrate.Cli.Views;

/// <summary>Shows what is outdated, and by how much.</summary>
internal static class DueView
{
    public static void Show(Output output, ListResult result)
    {
        var listed =
            result.Entries.Where(item => item.Entry.State != DueState.Current).OrderBy(item => item.Entry.State).ToList();
        if (output.IsJson)
        {
            output.Json(ListDocument.Of(listed, result.Freshness));
            return;
        }

        var shown = listed.ConvertAll(item => item.Entry);
        var table = new TextTable("app", "installed", "available", "released", "behind", "catalogue", "remark")
        { ToTheRight = ["released", "behind"] };
        foreach (var entry in shown)
        {
            var behind = entry.ReleasesBehind == 0
                ? ""
                : $"{Words.Count(entry.ReleasesBehind, "release")}, {Words.Count(entry.DaysBehind, "day")}";
            table.Add(
                new Cell(entry.App.Id.Text, Tone.Strong), entry.App.Version.Text,
                new Cell(
                    (entry.Available ?? entry.Newer)?.Release.Version.Text ?? "",
                    entry.State == DueState.Due ? Tone.Attention : Tone.Plain),
                Released(entry, result.Freshness.Now), behind, entry.App.Catalogue.Text, Words.Remark(entry));
        }

        output.List(Answer(shown, result.Entries.Count), table, Words.Age(result.Freshness));
        var changed = shown.Where(entry => entry.State == DueState.Changed).Select(entry => entry.App.Id.Text).ToArray();
        if (shown.Exists(entry => entry.State == DueState.Due)) output.Next(NextCommand.Of("upgrade"));
        else if (changed.Length > 0) output.Next(NextCommand.Of("upgrade", changed));
    }

    private static string Answer(List<DueEntry> shown, int count)
    {
        var due = shown.Count(entry => entry.State == DueState.Due);
        var isKnown = !shown.Exists(entry => entry.State is DueState.Paused or DueState.NotFetched);
        var apps = Words.Count(count, "app");
        return due > 0
            ? $"{due} of {apps} {(due == 1 ? "is" : "are")} due"
            : $"{(isKnown ? "Nothing is due" : "As far as is known, nothing is due")} among {apps}";
    }

    /// <summary>For how long the newer one has been there.</summary>
    private static string Released(DueEntry entry, DateTimeOffset now)
    {
        if ((entry.Available ?? entry.Newer) is not { } newer) return "";
        var days = DateOnly.FromDateTime(now.UtcDateTime).DayNumber - newer.Release.Date.DayNumber;
        return days switch { < 0 => "", 0 => "today", _ => $"{Words.Count(days, "day")} ago" };
    }
}
