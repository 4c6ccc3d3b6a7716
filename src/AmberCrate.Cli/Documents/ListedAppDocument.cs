using AmberCrate.Core.Cards;
using AmberCrate.Core.Planning;
using AmberCrate.Core.Values;
using AmberCrate.Engine.Operations;

namespace AmberCrate.Cli.Documents;

/// <summary>An installed app and how it stands, as JSON.</summary>
internal sealed record ListedAppDocument(
    string Id,
    string Name,
    string Type,
    string Version,
    string Line,
    string? Follows,
    string Catalogue,
    string Since,
    string Scope,
    string State,
    string? Available,
    string? Newer,
    IReadOnlyList<string> HeldBy,
    int ReleasesBehind,
    int DaysBehind)
{
    public static ListedAppDocument Of(ScopedEntry listed)
    {
        var (entry, app) = (listed.Entry, listed.Entry.App);
        return new ListedAppDocument(
            app.Id.Text, app.Name, CardWords.Kinds.WordOf(app.Kind), app.Version.Text, app.Line.Name, app.Follows?.ToString(),
            app.Catalogue.Text,
            PlainText.Time(app.InstalledAt), ScopeWords.Scopes.WordOf(listed.Scope), DueWords.States.WordOf(entry.State),
            entry.Available?.Release.Version.Text,
            entry.Newer?.Release.Version.Text,
            [.. entry.HeldBy.Select(id => id.Text)], entry.ReleasesBehind, entry.DaysBehind);
    }
}
