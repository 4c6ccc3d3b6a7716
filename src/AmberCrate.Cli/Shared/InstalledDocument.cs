using AmberCrate.Cli.Texts;
using AmberCrate.Core.Machine;
using AmberCrate.Core.Values;
using AmberCrate.Engine.Layout;

namespace AmberCrate.Cli.Shared;

/// <summary>An installed app, as JSON.</summary>
internal sealed record InstalledDocument(
    string Scope,
    string Version,
    string Catalogue,
    string? Follows,
    string Sha256,
    IReadOnlyList<DeliveredFileDocument> Files,
    bool Sha256Stated,
    bool Unsigned,
    string Since,
    string Place,
    IReadOnlyList<string> Places)
{
    public static InstalledDocument? OfMaybe(InstalledApp? app, MachineLayout layout) =>
        app is null ? null : new InstalledDocument(
        ScopeWords.Scopes.WordOf(layout.Scope), app.Version.Text, app.Catalogue.Text, app.Follows?.ToString(), app.Sha256.Hex,
        [.. app.Files.Select(file => new DeliveredFileDocument(file.Source, file.Sha256.Hex))],
        app.IsDigestStated, app.IsUnsigned,
        PlainText.Time(app.InstalledAt), Path.Combine(layout.ShelfOf(app.Id), app.ShelfName),
        [.. app.Placed.Select(item => layout.PathOf(item.Kind, item.Name))]);
}

/// <summary>A file that an installed app came from, as JSON.</summary>
internal sealed record DeliveredFileDocument(string Source, string Sha256);
