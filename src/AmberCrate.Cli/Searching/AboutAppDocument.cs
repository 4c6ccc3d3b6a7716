using System.Text.Json;
using System.Text.Json.Serialization;
using AmberCrate.Cli.Shared;
using AmberCrate.Core.CardFiles;
using AmberCrate.Core.Problems;
using AmberCrate.Core.Values;
using AmberCrate.Engine.Searching;

namespace AmberCrate.Cli.Searching;

/// <summary>Everything that is known about one app, as JSON.</summary>
internal sealed record AboutAppDocument(
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
    string? Next)
{
    public static AboutAppDocument FromApp(AboutApp app, AboutResult result, CallOptions call) => new(
        app.Assessment.Offer?.Catalogue.Text,
        ScopeWords.Scopes.WordOf(app.Scope),
        app.Assessment.Offer is { } offer ? Parsed(CardJson.Write(offer.Card)) : null,
        ChoiceDocument.OfMaybe(app.Assessment.Choice, result.LayoutOf(app)),
        [.. app.Assessment.Along.Select(item => $"{item.Id}@{item.To}")],
        ProblemDocument.OfMaybe(app.Assessment.AlongProblem, call),
        InstalledDocument.OfMaybe(app.Assessment.Installed, result.LayoutOf(app)),
        InstalledDocument.OfMaybe(app.Other, result.OtherLayoutOf(app)),
        [.. app.Assessment.Others.Select(other => OtherOfferDocument.FromOffer(other, result.LayoutOf(app))),
            .. app.Elsewhere.Select(other => OtherOfferDocument.FromOffer(other, result.OtherLayoutOf(app)))],
        SystemDocument.OfMaybe(app.System),
        app.Next?.In(call));

    private static JsonElement Parsed(ReadOnlyMemory<byte> json)
    {
        using var document = JsonDocument.Parse(json);
        return document.RootElement.Clone();
    }
}
