using AmberCrate.Cli.Tables;
using AmberCrate.Cli.Terminal;
using AmberCrate.Cli.Texts;
using AmberCrate.Core.Problems;
using AmberCrate.Core.Searching;
using AmberCrate.Core.Values;
using AmberCrate.Engine.Searching;

namespace AmberCrate.Cli.Searching;

/// <summary>Shows what a search has found.</summary>
internal static class SearchView
{
    public static void Show(Output output, SearchReport report)
    {
        if (output.IsJson) output.Json(SearchDocument.FromReport(report));
        else if (report.Results.Total == 0) WriteNothing(output, report);
        else WriteFound(output, report);
    }

    private static void WriteNothing(Output output, SearchReport report)
    {
        var query = Shown(report.Query);
        if (report.Freshness.Known == 0)
        {
            output.Line(new Cell("No catalogue has been added, so there is nothing to search.", Tone.Strong));
            output.Next(NextOf(report, wasAsked: false));
            return;
        }

        output.Line(query.Length == 0 ? "Nothing fits." : $"Nothing matches \"{query}\".");
        foreach (var id in report.Nearest) output.Line("  perhaps ", new Cell(id.Text, Tone.Strong));
        var asked = string.Join(", ", report.States.Select(state => $"{Words.Catalogue(state.Name, state.Scope, report.Scope)} "
            + $"({Words.Count(state.Apps, "app")})"));
        output.Line(new Cell(asked.Length == 0 ? Age(report) : $"asked: {asked} · {Age(report)}", Tone.Quiet));
        output.Next(NextOf(report, asked.Length > 0));
    }

    /// <summary>What to do where nothing was found: there is always something.</summary>
    private static NextCommand NextOf(SearchReport report, bool wasAsked)
    {
        if (report.Freshness.Known == 0) return NextCommand.Create("catalogue add", "NAME", "LOCATION");
        if (!wasAsked)
            return report.Freshness.Known > report.Freshness.Paused.Count
                ? NextCommand.Create("catalogue refresh")
                : NextCommand.Create("catalogue resume", report.Freshness.Paused[0].Text);
        if (report.Nearest.Count > 0) return NextCommand.Create("about", report.Nearest[0].Text);
        return report.Request.Filter.IsEmpty || report.Request.Words.Count == 0
            ? NextCommand.Create("search", "--category", "WORD")
            : NextCommand.Create("search", [.. report.Request.Words]);
    }

    private static void WriteFound(Output output, SearchReport report)
    {
        var query = Shown(report.Query);
        var table = new TextTable(Shapes.Found);
        foreach (var (result, version, installed, scope) in report.Apps)
        {
            table.Add(
                new Cell(result.Id.Text, Tone.Strong), version ?? "not for this machine",
                report.Request.Order == SearchOrder.Newest ? result.Released : "",
                report.Request.Order == SearchOrder.Popular && result.Machines > 0 ? $"{result.Machines}" : "",
                new Cell(installed ?? "", installed == version ? Tone.Plain : Tone.Attention),
                Words.Catalogue(result.Catalogue, scope, report.Scope), Words.WordFor(result.Kind),
                query.Length == 0 ? "" : Why(result.Match, report.Results.Matches > 0), $"{result.Name}: {result.Summary}");
        }

        output.List(Counted(report), table, Age(report));
        if (report.Request.Order == SearchOrder.Popular) output.Line(new Cell(CountedBy(report), Tone.Quiet));
        if (report.Apps[0] is { Installed: null, Version: not null } best && best.Scope != report.Scope)
            output.Next(NextCommand.Create("install", best.Result.Id.Text).ForAllUsers());
    }

    /// <summary>The source of the numbers that apps are ordered by.</summary>
    private static string CountedBy(SearchReport report)
    {
        var counted = report.States.Where(state => state.Machines > 0)
            .Select(state => $"{state.Name} counted {Words.Count(state.Machines, "machine")}");
        return string.Join(", ", counted) is { Length: > 0 } list
            ? $"popularity: {list}"
            : "No catalogue has counted how many machines have its apps; they are ordered by name.";
    }

    private static string Shown(string query) =>
        query.Length > SearchText.MaxQuery ? query[..SearchText.MaxQuery] + "…" : query;

    /// <summary>How old the data are, and which catalogues were not looked into, or not as they are now.</summary>
    private static string Age(SearchReport report)
    {
        var freshness = report.Freshness;
        var age = report.States.Count > 0 ? Words.Age(report.States, freshness.Now) : Words.Age(freshness);
        return string.Join(" · ", new[]
        {
            age, Listed("not refreshed", freshness.NotRefreshed), Listed("never refreshed", freshness.NeverFetched),
            Listed("paused", freshness.Paused),
        }.OfType<string>());

        static string? Listed(string what, IEnumerable<CatalogueName> names) =>
            string.Join(", ", names) is { Length: > 0 } list ? $"{what}: {list}" : null;
    }

    /// <summary>How many there are, where they were looked for, and how to see the others.</summary>
    private static string Counted(SearchReport report)
    {
        var (results, shown) = (report.Results, report.Apps.Count);
        var guesses =
            (results is { Matches: > 0, Guesses: > 0 } ? $", {Words.Count(results.Guesses, "guess", "guesses")} among them" : "")
                + (results is { Partly: > 0 } ? $", {results.Partly} of them without all the words" : "");
        var where =
            report.States.Count > 1 ? " in " + string.Join(", ", report.States.Select(state => state.Name).Distinct()) : "";
        if (results is { Matches: 0, Guesses: 0 })
            return $"Nothing has all the words of \"{Shown(report.Query)}\"; these have most of them"
                + (results.Total > shown ? $": {shown} of {results.Total} apps; --limit shows more" : ".");
        if (results.Matches == 0)
            return $"Nothing matches \"{Shown(report.Query)}\" as it is spelled; these are "
                + (results.Total > shown ? $"{shown} of {results.Total} guesses; --limit shows more" : "guesses.");
        var total = $"{Words.Count(results.Total, "app")}{guesses}{where}";
        return results.Total > shown ? $"{shown} of {total}; --limit shows more" : total;
    }

    /// <summary>Why an app was found, where it cannot be seen.</summary>
    private static Cell Why(SearchMatch match, bool saysGuess)
    {
        if (match.IsGuess && saysGuess) return new Cell("a guess", Tone.Attention);
        if (match.Missing > 0) return new Cell("not all words", Tone.Attention);
        return match.Field is SearchField.WholeName or SearchField.NameStart or SearchField.NameWords or SearchField.Summary
            ? ""
            : FieldWords.WordFor(match.Field);
    }
}
