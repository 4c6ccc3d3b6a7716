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
        var table = new TextTable("app", "installed", "available", "behind", "catalogue", "remark");
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
                behind, entry.App.Catalogue.Text, Remark(entry));
        }

        output.Table(table);
        output.Line(new Cell($"{Answer(shown, result.Entries.Count)} · {Words.Age(result.Freshness)}", Tone.Quiet));
        if (shown.Exists(entry => entry.State == DueState.Due)) output.Next(NextCommand.Of("upgrade"));
    }

    private static string Answer(List<DueEntry> shown, int count)
    {
        var due = shown.Count(entry => entry.State == DueState.Due);
        var isKnown = !shown.Exists(entry => entry.State is DueState.Paused or DueState.NotFetched);
        var apps = Words.Count(count, "app");
        return due > 0
            ? $"{due} of {apps} due"
            : $"{(isKnown ? "Nothing is due" : "As far as is known, nothing is due")} among {apps}";
    }

    private static string Remark(DueEntry entry) => entry.State switch
    {
        DueState.Paused => "its catalogue is paused",
        DueState.NotOffered => "not offered any more",
        DueState.NotFetched => "its catalogue has not been fetched yet",
        DueState.Dropped => "its catalogue is not here any more",
        DueState.Due when entry.Newer is { } newer => $"follows @{entry.App.Follows}; {newer.Release.Version} is newer",
        _ when entry.App.Follows is { } follows => $"follows @{follows}",
        _ => "",
    };
}
