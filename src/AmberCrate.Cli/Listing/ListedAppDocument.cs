using AmberCrate.Cli.Shared;
using AmberCrate.Cli.Texts;
using AmberCrate.Core.Cards;
using AmberCrate.Core.Due;
using AmberCrate.Core.Machine;
using AmberCrate.Core.Values;
using AmberCrate.Engine.Listing;

namespace AmberCrate.Cli.Listing;

/// <summary>An installed app and its state, as JSON.</summary>
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
    public IReadOnlyList<string> Marks { get; private init; } = [];

    public string? RecordedVersion { get; private init; }

    public bool Dependency { get; private init; }

    public long? Size { get; private init; }

    public long Shared { get; private init; }

    public string? Place { get; private init; }

    public string? Withdrawn { get; private init; }

    public bool Security { get; private init; }

    public string? HeldFix { get; private init; }

    public string? HeldFixWhy { get; private init; }

    public long? DownloadSize { get; private init; }

    public IReadOnlyList<string> AlsoHere { get; private init; } = [];

    public IReadOnlyList<LackDocument> Lacks { get; private init; } = [];

    public PinDocument? Pin { get; private init; }

    public IReadOnlyList<ReleaseBetweenDocument> Between { get; private init; } = [];

    public IReadOnlyList<CardChangeDocument> Changes { get; private init; } = [];

    public static ListedAppDocument FromEntry(ScopedEntry listed)
    {
        var (entry, app) = (listed.Entry, listed.Entry.App);
        return new ListedAppDocument(
            app.Id.Text, app.Name, CardWords.Kinds.WordOf(app.Kind), entry.Version.Text, app.Line.Name, app.Follows?.ToString(),
            app.Catalogue.Text,
            PlainText.Time(app.InstalledAt), ScopeWords.Scopes.WordOf(listed.Scope), DueWords.States.WordOf(entry.State),
            entry.Available?.Release.Version.Text,
            entry.Newer?.Release.Version.Text,
            [.. entry.HeldBy.Select(id => id.Text)], entry.ReleasesBehind, entry.DaysBehind)
        {
            Marks = [.. listed.Marks.Select(MarkWords.Marks.WordOf)], RecordedVersion = entry.RealVersion is null ? null
                : app.Version.Text,
            Dependency = app.IsDependency, Size = app.Size, Shared = app.Shared, Place = listed.Place,
            Withdrawn = entry.Withdrawn, Security = entry.IsSecurity,
            HeldFix = entry.HeldFix?.Version.Text, HeldFixWhy = entry.HeldFix is null ? null : entry.HeldFixWhy,
            DownloadSize = entry.Available?.Delivery.DownloadSize,
            AlsoHere = [.. listed.AlsoHere.Select(other => other.Words)],
            Lacks = [.. listed.Lacks.Select(LackDocument.FromLack)],
            Pin = PinDocument.OfMaybe(entry.Pin, listed.Marks.Contains(AppMark.PinLapsed)),
            Between = [.. entry.Between.Select(release => new ReleaseBetweenDocument(
                release.Version.Text, PlainText.Date(release.Date), release.Urgency is { } urgency
                    ? CardWords.Urgencies.WordOf(urgency)
                    : null, release.Notes))],
            Changes = [.. entry.CardChanges.Select(change => new CardChangeDocument(
                CardChange.Kinds.WordOf(change.Kind), change.Before, change.After))],
        };
    }
}

/// <summary>What a card states differently since the app was installed, as JSON.</summary>
internal sealed record CardChangeDocument(string What, string Before, string After);

/// <summary>A release that is newer than the installed one, as JSON.</summary>
internal sealed record ReleaseBetweenDocument(string Version, string Date, string? Urgency, string? Description);
