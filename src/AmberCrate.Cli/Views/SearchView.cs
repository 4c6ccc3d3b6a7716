using AmberCrate.Core.Searching;
using AmberCrate.Core.Values;
using AmberCrate.Engine.Catalogues;
using AmberCrate.Engine.Operations;

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
        if (output.IsJson) WriteJson(output, query, rows, results, states);
        else WriteText(output, query.Length > SearchText.MaxQuery ? query[..SearchText.MaxQuery] + "…" : query, request.Order, rows, results, states, station);
    }

    private static void WriteText(Output output, string query, SearchOrder order, List<Row> rows, SearchResults results, List<CatalogueState> states, Workstation station)
    {
        var age = string.Join(" · ", new[] { states.Count > 0 ? Words.Age(states, station.Clock.GetUtcNow()) : Words.Age(station) }.Concat(LeftOut(station)));
        if (results.Total == 0)
        {
            output.Line(query.Length == 0 ? "Nothing fits." : $"Nothing matches \"{query}\".");
            foreach (var id in station.Offers().Nearest(query)) output.Line("  perhaps ", new Cell(id.Text, Tone.Strong));
            var asked = string.Join(", ", states.Select(state => $"{state.Name} ({Words.Count(state.Apps, "app")})"));
            output.Line(new Cell(asked.Length == 0 ? age : $"asked: {asked} · {age}", Tone.Quiet));
            if (asked.Length == 0 && station.Offers().Catalogues.Count > 0) output.Line("next: " + CommandText.In(station.Layout.Scope, "acrate catalogue refresh"));
            return;
        }

        if (results.Matches == 0) output.Line(new Cell($"Nothing matches \"{query}\" as it is spelled; these are guesses.", Tone.Attention));
        var table = new TextTable("app", "version", "released", "installed", "catalogue", "kind", "found by", "what it is");
        foreach (var (result, version, installed) in rows)
        {
            table.Add(
                new Cell(result.Id.Text, Tone.Strong), version ?? "not for this machine", order == SearchOrder.Newest ? result.Released : "",
                new Cell(installed ?? "", installed == version ? Tone.Plain : Tone.Attention),
                result.Catalogue.Text, Words.Of(result.Kind), query.Length == 0 ? "" : Why(result.Match, results.Matches > 0), result.Name + ": " + result.Summary);
        }

        output.Table(table);
        output.Line(new Cell(Counted(rows.Count, results, states) + " · " + age, Tone.Quiet));
    }

    /// <summary>How many there are, where they were looked for, and how to see the others.</summary>
    private static string Counted(int shown, SearchResults results, List<CatalogueState> states)
    {
        var total = Words.Count(results.Total, "app") + (results is { Matches: > 0, Guesses: > 0 } ? $", {Words.Count(results.Guesses, "guess", "guesses")} among them" : "");
        var where = states.Count > 1 ? " in " + string.Join(", ", states.Select(state => state.Name)) : "";
        return results.Total > shown ? $"{shown} of {total}{where}; --limit shows more" : total + where;
    }

    /// <summary>Which catalogues were not looked into, or not as they are now.</summary>
    private static IEnumerable<string> LeftOut(Workstation station)
    {
        var asked = station.Records.Catalogues().Where(catalogue => !catalogue.IsPaused).Select(catalogue => (catalogue.Name, State: station.Cache.StateOf(catalogue))).ToList();
        return new[]
        {
            Of("not reached", asked.Where(item => item.State?.IsBehind == true).Select(item => item.Name)),
            Of("never fetched", asked.Where(item => item.State is null).Select(item => item.Name)),
            Of("paused", station.Offers().Paused),
        }.OfType<string>();

        static string? Of(string what, IEnumerable<CatalogueName> names) => string.Join(", ", names) is { Length: > 0 } list ? $"{what}: {list}" : null;
    }

    /// <summary>Why an app was found, where it cannot be seen.</summary>
    private static Cell Why(SearchMatch match, bool saysGuess)
    {
        if (match.IsGuess && saysGuess) return new Cell("a guess", Tone.Attention);
        return match.Field switch
        {
            SearchField.Keyword => "keyword",
            SearchField.Category => "category",
            SearchField.Developer => "developer",
            SearchField.Description => "description",
            _ => "",
        };
    }

    private static void WriteJson(Output output, string query, List<Row> rows, SearchResults results, List<CatalogueState> states) => output.Json(json =>
    {
        json.WriteStartObject();
        json.WriteString("query", query);
        json.WriteNumber("found", results.Total);
        json.WriteNumber("guesses", results.Guesses);
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
            json.WriteString("released", result.Released);
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
