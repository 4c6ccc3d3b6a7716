using AmberCrate.Cli.Documents;
using AmberCrate.Core.Catalogues;
using AmberCrate.Core.Problems;
using AmberCrate.Engine.Catalogues;
using AmberCrate.Engine.Operations;

namespace AmberCrate.Cli.Views;

/// <summary>Shows catalogues, and what has become of them.</summary>
internal static class CatalogueView
{
    public static void ShowAdded(Output output, RefreshResult result)
    {
        if (output.IsJson) output.Json(CataloguesDocument.Of([result], output.Call));
        else output.Line(
            "Added ", new Cell(result.Catalogue.Name.Text, Tone.Strong),
            $": {result.State!.Title}, {Words.Count(result.State.Apps, "app")}");
    }

    public static void ShowRefreshed(Output output, IReadOnlyList<RefreshResult> results)
    {
        if (output.IsJson)
        {
            output.Json(CataloguesDocument.Of(results, output.Call));
            return;
        }

        if (results.Count == 0) output.Line("No catalogue is to be refreshed.");
        foreach (var result in results)
        {
            if (result.Problem is { } problem) ShowFailed(output, result, problem);
            else output.Line(
                new Cell(result.Catalogue.Name.Text, Tone.Strong), $"  {News(result)}, {Words.Count(result.State!.Apps, "app")}");
        }
    }

    public static void ShowList(Output output, CatalogueList list)
    {
        if (output.IsJson)
        {
            output.Json(CataloguesDocument.Of(list));
            return;
        }

        if (list.Entries.Count == 0)
        {
            output.Line("No catalogue has been added.");
            output.Next(NextCommand.Of("catalogue add", "NAME", "LOCATION"));
            return;
        }

        var table = new TextTable("catalogue", "apps", "refreshed", "state", "location", "title")
        { ToTheRight = ["apps", "refreshed"] };
        foreach (var (catalogue, state) in list.Entries)
        {
            table.Add(
                new Cell(catalogue.Name.Text, Tone.Strong), state is null ? "" : $"{state.Apps}",
                state is null ? new Cell("never", Tone.Attention) : DataAge.Ago(state.Refreshed, list.Now),
                new Cell(catalogue.IsPaused ? "paused" : "", Tone.Attention), catalogue.Location, state?.Title ?? "");
        }

        output.List($"{Words.Count(list.Entries.Count, "catalogue")}, in order of preference", table, "");
    }

    public static void ShowDropped(Output output, DroppedCatalogue dropped)
    {
        if (output.IsJson)
        {
            output.Json(new DroppedDocument(dropped.Name.Text, dropped.Apps));
            return;
        }

        var rest = dropped.Apps == 0
            ? "."
            : $". {Words.Count(dropped.Apps, "installed app")} came from it: they stay, and get no upgrades.";
        output.Line("Dropped ", new Cell(dropped.Name.Text, Tone.Strong), rest);
    }

    public static void ShowBuilt(Output output, PublishResult result)
    {
        var (apps, parts, size) =
            (result.Document.Apps, result.Document.Parts.Count, result.Document.Parts.Sum(part => part.Size));
        if (output.IsJson) output.Json(new PublishedDocument(result.Path, apps, parts, size, result.Pages));
        else output.Line(
            $"Published {Words.Count(apps, "app")} in {Words.Count(parts, "part")} ({Words.Size(size)}) to ",
            new Cell(result.Folder, Tone.Strong));
        if (output.IsJson) return;
        if (result.Document.Popularity is { } popularity)
            output.Line(new Cell($"popularity counted on {Words.Count(popularity.Machines, "machine")}", Tone.Quiet));
        if (result.Pages > 0)
            output.Line(new Cell(
                $"{Words.Count(result.Pages, "page")} for a browser; the first is {result.Folder}/index.html", Tone.Quiet));
        foreach (var path in result.Pruned) output.Line($"  removed {path}");
    }

    private static void ShowFailed(Output output, RefreshResult result, Problem problem)
    {
        output.Line(new Cell($"{result.Catalogue.Name}  not refreshed: ", Tone.Attention), problem.What);
        ErrorView.ShowRest(output, problem);
        foreach (var detail in problem.Details) output.Line($"    {detail.In(output.Call)}");
        output.Line(result.State is { } old
            ? $"  the data of {PlainText.Time(old.Refreshed)} stay in use"
            : "  nothing is known of it yet");
    }

    private static string News(RefreshResult result) =>
        result.Changed ? $"{result.PartsRead} of {Words.Count(result.PartsInAll, "part")} downloaded" : "nothing new";
}
