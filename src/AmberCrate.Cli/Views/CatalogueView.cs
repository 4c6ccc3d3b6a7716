using AmberCrate.Core.Catalogues;
using AmberCrate.Core.Values;
using AmberCrate.Engine.Catalogues;
using AmberCrate.Engine.Operations;

namespace AmberCrate.Cli.Views;

/// <summary>Shows catalogues, and what has become of them.</summary>
internal static class CatalogueView
{
    public static void ShowAdded(Output output, RefreshResult result)
    {
        if (output.IsJson) WriteJson(output, [result]);
        else output.Line("Added ", new Cell(result.Catalogue.Name.Text, Tone.Strong), $": {result.State!.Title}, {Words.Count(result.State.Apps, "app")}");
    }

    public static void ShowRefreshed(Output output, IReadOnlyList<RefreshResult> results)
    {
        if (output.IsJson)
        {
            WriteJson(output, results);
            return;
        }

        if (results.Count == 0) output.Line("No catalogue is to be refreshed.");
        foreach (var result in results)
        {
            if (result.Problem is { } problem)
            {
                output.Line(new Cell($"{result.Catalogue.Name}  not refreshed: ", Tone.Attention), problem.What);
                if (problem.Why.Length > 0) output.Line($"  why: {problem.Why}");
                if (problem.Remedy.Length > 0) output.Line($"  next: {problem.Remedy}");
                output.Line(result.State is { } old ? $"  the data of {JsonFields.Time(old.Refreshed)} stay in use" : "  nothing is known of it yet");
            }
            else
            {
                var news = result.Changed ? $"{result.ShardsRead} of {Words.Count(result.ShardsInAll, "shard")} fetched" : "nothing new";
                output.Line(new Cell(result.Catalogue.Name.Text, Tone.Strong), $"  {news}, {Words.Count(result.State!.Apps, "app")}");
            }
        }
    }

    public static void ShowList(Output output, Workstation station)
    {
        var catalogues = station.Records.Catalogues().Select(catalogue => (Catalogue: catalogue, State: station.Cache.StateOf(catalogue))).ToList();
        if (output.IsJson)
        {
            WriteJson(output, [.. catalogues.Select(pair => new RefreshResult(pair.Catalogue, pair.State, false, 0, 0, null))]);
            return;
        }

        if (catalogues.Count == 0)
        {
            output.Line("No catalogue has been added.");
            output.Line("next: " + CommandText.In(station.Layout.Scope, "acrate catalogue add") + " NAME LOCATION");
            return;
        }

        var table = new TextTable("catalogue", "apps", "refreshed", "state", "location", "title");
        foreach (var (catalogue, state) in catalogues)
        {
            table.Add(
                new Cell(catalogue.Name.Text, Tone.Strong), state is null ? "" : $"{state.Apps}",
                state is null ? new Cell("never", Tone.Attention) : Words.Ago(state.Refreshed, station.Clock.GetUtcNow()), new Cell(catalogue.IsPaused ? "paused" : "", Tone.Attention), catalogue.Location, state?.Title ?? "");
        }

        output.Table(table);
        output.Line(new Cell($"{Words.Count(catalogues.Count, "catalogue")}, in order of preference", Tone.Quiet));
    }

    public static void ShowDropped(Output output, CatalogueName name, int apps)
    {
        if (output.IsJson)
        {
            output.Json(json =>
            {
                json.WriteStartObject();
                json.WriteString("dropped", name.Text);
                json.WriteNumber("installed_apps", apps);
                json.WriteEndObject();
            });
            return;
        }

        output.Line("Dropped ", new Cell(name.Text, Tone.Strong), apps == 0 ? "." : $". {Words.Count(apps, "installed app")} came from it: they stay, and get no upgrades.");
    }

    public static void ShowBuilt(Output output, CatalogueDocument document, string folder)
    {
        if (output.IsJson)
        {
            output.Json(json =>
            {
                json.WriteStartObject();
                json.WriteString("folder", Path.GetFullPath(folder));
                json.WriteNumber("apps", document.Apps);
                json.WriteNumber("shards", document.Shards.Count);
                json.WriteNumber("size", document.Shards.Sum(shard => shard.Size));
                json.WriteEndObject();
            });
            return;
        }

        output.Line($"Published {Words.Count(document.Apps, "app")} in {Words.Count(document.Shards.Count, "shard")} ({Words.Size(document.Shards.Sum(shard => shard.Size))}) to ", new Cell(folder, Tone.Strong));
    }

    private static void WriteJson(Output output, IReadOnlyList<RefreshResult> results) => output.Json(json =>
    {
        json.WriteStartObject();
        json.WriteStartArray("catalogues");
        foreach (var result in results)
        {
            json.WriteStartObject();
            json.WriteString("name", result.Catalogue.Name.Text);
            json.WriteString("location", result.Catalogue.Location);
            json.WriteBoolean("paused", result.Catalogue.IsPaused);
            json.WriteString("title", result.State?.Title);
            json.WriteString("refreshed", result.State is null ? null : JsonFields.Time(result.State.Refreshed));
            if (result.State is null) json.WriteNull("apps");
            else json.WriteNumber("apps", result.State.Apps);
            json.WriteNumber("shards_read", result.ShardsRead);
            json.WriteProblem(result.Problem);
            json.WriteEndObject();
        }

        json.WriteEndArray();
        json.WriteEndObject();
    });
}
