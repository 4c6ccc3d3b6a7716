using AmberCrate.Core.Cards;
using AmberCrate.Core.Searching;
using AmberCrate.Engine.Catalogues;
using AmberCrate.Engine.Running;

namespace AmberCrate.Cli.Views;

/// <summary>Shows what a search has found.</summary>
internal static class SearchView
{
    public static void Show(Output output, string query, SearchRequest request, SearchResults results, Workstation station)
    {
        var machine = station.State();
        var states = station.CatalogueStates().Where(state => request.Catalogues.Contains(state.Name)).ToList();
        var rows = results.Shown.Select(result => new Row(
            result,
            NewestReleases.VersionFor(result.Newest, machine.Platform),
            machine.Find(result.Id)?.Version.Text)).ToList();
        if (output.IsJson) WriteJson(output, query, rows, results.Total, states);
        else WriteText(output, query.Length > SearchText.MaxQuery ? query[..SearchText.MaxQuery] + "…" : query, rows, results.Total, states, station);
    }

    private static void WriteText(Output output, string query, List<Row> rows, int found, List<CatalogueState> states, Workstation station)
    {
        var age = Words.Age(states, station.Clock.GetUtcNow()) + LeftOut(station);
        if (found == 0)
        {
            output.Line(query.Length == 0 ? "Nothing fits." : $"Nothing matches \"{query}\".");
            foreach (var id in station.Offers().Nearest(query)) output.Line("  perhaps ", new Cell(id.Text, Tone.Strong));
            var asked = string.Join(", ", states.Select(state => $"{state.Name} ({Words.Count(state.Apps, "app")})"));
            output.Line(new Cell(asked.Length == 0 ? age : $"asked: {asked} · {age}", Tone.Quiet));
            return;
        }

        if (rows.Exists(row => row.Result.Match.IsGuess)) output.Line(new Cell($"Nothing matches \"{query}\" as it is spelled; these are guesses.", Tone.Attention));
        var table = new TextTable("app", "version", "installed", "catalogue", "kind", "found by", "what it is");
        foreach (var (result, version, installed) in rows)
        {
            table.Add(
                new Cell(result.Id.Text, Tone.Strong), version ?? "not for this machine", new Cell(installed ?? "", installed == version ? Tone.Plain : Tone.Attention),
                result.Catalogue.Text, Words.Of(result.Kind), query.Length == 0 ? "" : Why(result.Match.Field), result.Name + ": " + result.Summary);
        }

        output.Table(table);
        var total = Words.Count(found, "app");
        var more = found > rows.Count ? $"{rows.Count} of {total}, --limit shows more" : total;
        output.Line(new Cell(more + (states.Count > 1 ? " in " + string.Join(", ", states.Select(state => state.Name)) : "") + " · " + age, Tone.Quiet));
    }

    /// <summary>Which catalogues were not looked into, or not as they are now.</summary>
    private static string LeftOut(Workstation station)
    {
        var asked = station.Records.Catalogues().Where(catalogue => !catalogue.IsPaused).Select(catalogue => (catalogue.Name, State: station.Cache.StateOf(catalogue))).ToList();
        return Of("not reached", asked.Where(item => item.State?.IsBehind == true).Select(item => item.Name))
            + Of("never fetched", asked.Where(item => item.State is null).Select(item => item.Name))
            + Of("paused", station.Offers().Paused);

        static string Of(string what, IEnumerable<CatalogueName> names) => string.Join(", ", names) is { Length: > 0 } list ? " · " + what + ": " + list : "";
    }

    /// <summary>Why an app was found, where it cannot be seen.</summary>
    private static string Why(SearchField field) => field switch
    {
        SearchField.Keyword => "keyword",
        SearchField.Category => "category",
        SearchField.Developer => "developer",
        SearchField.Description => "description",
        _ => "",
    };

    private static void WriteJson(Output output, string query, List<Row> rows, int found, List<CatalogueState> states) => output.Json(json =>
    {
        json.WriteStartObject();
        json.WriteString("query", query);
        json.WriteNumber("found", found);
        json.WriteStartArray("results");
        foreach (var (result, version, installed) in rows)
        {
            json.WriteStartObject();
            json.WriteString("id", result.Id.Text);
            json.WriteString("name", result.Name);
            json.WriteString("summary", result.Summary);
            json.WriteString("type", JsonFields.Kind(result.Kind));
            json.WriteString("catalogue", result.Catalogue.Text);
            json.WriteString("version", version);
            json.WriteString("installed", installed);
            json.WriteString("matched", query.Length == 0 ? null : FieldName(result.Match.Field));
            json.WriteBoolean("guess", result.Match.IsGuess);
            json.WriteEndObject();
        }

        json.WriteEndArray();
        json.WriteCatalogues(states);
        json.WriteEndObject();
    });

    private static string FieldName(SearchField field) => field switch
    {
        SearchField.WholeName or SearchField.NameStart or SearchField.NameWords => "name",
        SearchField.Keyword => "keyword",
        SearchField.Category => "category",
        SearchField.Developer => "developer",
        SearchField.Description => "description",
        _ => "summary",
    };

    private sealed record Row(SearchResult Result, string? Version, string? Installed);
}
