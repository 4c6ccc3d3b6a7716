using AmberCrate.Cli.Documents;
using AmberCrate.Core.Problems;
using AmberCrate.Core.Searching;
using AmberCrate.Core.Values;
using AmberCrate.Engine.Operations;

namespace AmberCrate.Cli.Views;

/// <summary>Shows what a search has found.</summary>
internal static class SearchView
{
    public static void Show(Output output, SearchReport report)
    {
        if (output.IsJson) output.Json(SearchDocument.Of(report));
        else if (report.Results.Total == 0) WriteNothing(output, report);
        else WriteFound(output, report);
    }

    private static void WriteNothing(Output output, SearchReport report)
    {
        var query = Shown(report.Query);
        output.Line(query.Length == 0 ? "Nothing fits." : $"Nothing matches \"{query}\".");
        foreach (var id in report.Nearest) output.Line("  perhaps ", new Cell(id.Text, Tone.Strong));
        var asked = string.Join(", ", report.States.Select(state => $"{Words.Catalogue(state.Name, state.Scope, report.Scope)} "
            + $"({Words.Count(state.Apps, "app")})"));
        output.Line(new Cell(asked.Length == 0 ? Age(report) : $"asked: {asked} · {Age(report)}", Tone.Quiet));
        if (report.Freshness.Known == 0) output.Next(NextCommand.Of("catalogue add", "NAME", "LOCATION"));
        else if (asked.Length == 0 && report.Freshness.Known > report.Freshness.Paused.Count)
            output.Next(NextCommand.Of("catalogue refresh"));
    }

    private static void WriteFound(Output output, SearchReport report)
    {
        var query = Shown(report.Query);
        var table = new TextTable("app", "version", "released", "installed", "catalogue", "kind", "found by", "what it is");
        foreach (var (result, version, installed, scope) in report.Apps)
        {
            table.Add(
                new Cell(result.Id.Text, Tone.Strong), version ?? "not for this machine",
                report.Wish.Order == SearchOrder.Newest ? result.Released : "",
                new Cell(installed ?? "", installed == version ? Tone.Plain : Tone.Attention),
                Words.Catalogue(result.Catalogue, scope, report.Scope), Words.Of(result.Kind),
                query.Length == 0 ? "" : Why(result.Match, report.Results.Matches > 0), $"{result.Name}: {result.Summary}");
        }

        output.List(Counted(report), table, Age(report));
        if (report.Apps[0] is { Installed: null, Version: not null } best && best.Scope != report.Scope)
            output.Next(NextCommand.Of("install", best.Result.Id.Text).ForAllUsers());
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
            age, Listed("not refreshed", freshness.NotReached), Listed("never refreshed", freshness.NeverFetched),
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
            results is { Matches: > 0, Guesses: > 0 } ? $", {Words.Count(results.Guesses, "guess", "guesses")} among them" : "";
        var where =
            report.States.Count > 1 ? " in " + string.Join(", ", report.States.Select(state => state.Name).Distinct()) : "";
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
        return match.Field is SearchField.Keyword or SearchField.Category or SearchField.Developer or SearchField.Description
            ? FieldWords.Of(match.Field)
            : "";
    }
}
