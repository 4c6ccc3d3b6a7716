using AmberCrate.Cli.Shared;
using AmberCrate.Cli.Terminal;
using AmberCrate.Core.Cards;
using AmberCrate.Core.Values;
using AmberCrate.Engine.Searching;

namespace AmberCrate.Cli.Searching;

/// <summary>What a search has found, as JSON.</summary>
internal sealed record SearchDocument(
    string Query,
    int Found,
    int Guesses,
    int Partly,
    IReadOnlyList<FoundAppDocument> Results,
    IReadOnlyList<CatalogueDataDocument> Catalogues,
    int Format = DocumentFormat.Number)
{
    public static SearchDocument FromReport(SearchReport report) => new(
        report.Query, report.Results.Total, report.Results.Guesses, report.Results.Partly,
        [.. report.Apps.Select(app => FromApp(app, report.Query))],
        CatalogueDataDocument.FromCatalogues(report.States));

    private static FoundAppDocument FromApp(FoundApp app, string query) => new(
        app.Result.Id.Text, app.Result.Name, app.Result.Summary, CardWords.Kinds.WordOf(app.Result.Kind),
        app.Result.Catalogue.Text, ScopeWords.Scopes.WordOf(app.Scope), app.Version,
        app.Result.Released, app.Installed, query.Length == 0 ? null : FieldWords.WordFor(app.Result.Match.Field),
        app.Result.Match.IsGuess, app.Result.Match.Missing, app.Result.Machines);
}
