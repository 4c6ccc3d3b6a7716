using System.Text.Json;
using System.Text.Json.Serialization;
using AmberCrate.Cli.Shared;
using AmberCrate.Cli.Terminal;
using AmberCrate.Core.Problems;
using AmberCrate.Engine.Searching;

namespace AmberCrate.Cli.Searching;

/// <summary>One app in a document of its own, as JSON.</summary>
internal sealed record AboutDocument(
    string? Catalogue,
    string Scope,
    JsonElement? Card,
    ChoiceDocument? WouldInstall,
    IReadOnlyList<string> ComesAlong,
    [property: JsonIgnore(Condition = JsonIgnoreCondition.WhenWritingNull)] ProblemDocument? Problem,
    InstalledDocument? Installed,
    InstalledDocument? InstalledOther,
    IReadOnlyList<OtherOfferDocument> Others,
    SystemDocument? System,
    string? Next,
    IReadOnlyList<CatalogueDataDocument> Catalogues,
    int Format = DocumentFormat.Number)
{
    public static AboutDocument FromResult(AboutResult result, CallOptions call)
    {
        var app = AboutAppDocument.FromApp(result.Apps[0], result, call);
        return new AboutDocument(
            app.Catalogue, app.Scope, app.Card, app.WouldInstall, app.ComesAlong, app.Problem, app.Installed, app.InstalledOther,
            app.Others, app.System, app.Next,
            CatalogueDataDocument.FromCatalogues(result.Freshness.States));
    }
}
