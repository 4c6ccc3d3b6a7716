using AmberCrate.Core.Planning;
using AmberCrate.Core.Values;
using AmberCrate.Engine.Operations;

namespace AmberCrate.Cli.Views;

/// <summary>Shows what is outdated, and by how much.</summary>
internal static class DueView
{
    public static void Show(Output output, IReadOnlyList<DueEntry> entries, Workstation station)
    {
        var shown = entries.Where(entry => entry.State != DueState.Current).OrderBy(entry => entry.State).ToList();
        if (output.IsJson)
        {
            WriteJson(output, [.. shown.Select(entry => (station.Layout.Scope, entry))], station);
            return;
        }

        var table = new TextTable("app", "installed", "available", "behind", "catalogue", "remark");
        foreach (var entry in shown)
        {
            var behind = entry.ReleasesBehind == 0 ? "" : $"{Words.Count(entry.ReleasesBehind, "release")}, {Words.Count(entry.DaysBehind, "day")}";
            table.Add(
                new Cell(entry.App.Id.Text, Tone.Strong), entry.App.Version.Text,
                new Cell((entry.Available ?? entry.Beyond)?.Release.Version.Text ?? "", entry.State == DueState.Due ? Tone.Attention : Tone.Plain),
                behind, entry.App.Catalogue.Text, Remark(entry));
        }

        output.Table(table);
        var due = shown.Count(entry => entry.State == DueState.Due);
        var pinned = shown.Count(entry => entry.State == DueState.Pinned);
        var isKnown = !shown.Exists(entry => entry.State is DueState.Paused or DueState.NotFetched);
        var answer = due == 0 ? $"{(isKnown ? "Nothing is due" : "As far as is known, nothing is due")} among {Words.Count(entries.Count, "app")}" : $"{due} of {Words.Count(entries.Count, "app")} due";
        output.Line(new Cell($"{answer}{(pinned > 0 ? $", {pinned} pinned" : "")} · {Words.Age(station)}", Tone.Quiet));
        if (due > 0) output.Line("next: " + CommandText.In(station.Layout.Scope, "acrate upgrade"));
    }

    /// <summary>Writes installed apps, of one scope or of both.</summary>
    public static void WriteJson(Output output, IReadOnlyList<(InstallScope Scope, DueEntry Entry)> entries, Workstation station) => output.Json(json =>
    {
        json.WriteStartObject();
        json.WriteStartArray("apps");
        foreach (var (scope, entry) in entries)
        {
            var app = entry.App;
            json.WriteStartObject();
            json.WriteString("id", app.Id.Text);
            json.WriteString("name", app.Name);
            json.WriteString("type", JsonFields.Kind(app.Kind));
            json.WriteString("version", app.Version.Text);
            json.WriteString("line", app.Line.Name);
            json.WriteString("asked", app.Asked?.ToString());
            json.WriteString("catalogue", app.Catalogue.Text);
            json.WriteString("since", JsonFields.Time(app.InstalledAt));
            json.WriteString("scope", Words.Of(scope));
            json.WriteString("state", State(entry.State));
            json.WriteString("available", entry.Available?.Release.Version.Text);
            json.WriteString("beyond", entry.Beyond?.Release.Version.Text);
            json.WriteNumber("releases_behind", entry.ReleasesBehind);
            json.WriteNumber("days_behind", entry.DaysBehind);
            json.WriteEndObject();
        }

        json.WriteEndArray();
        json.WriteCatalogues(station.CatalogueStates());
        json.WriteEndObject();
    });

    private static string Remark(DueEntry entry) => entry.State switch
    {
        DueState.Pinned => $"pinned to @{entry.App.Asked}",
        DueState.Paused => "its catalogue is paused",
        DueState.NotOffered => "not offered any more",
        DueState.NotFetched => "its catalogue has not been fetched yet",
        DueState.Dropped => "its catalogue is not here any more",
        _ when entry.Beyond is { } beyond => $"kept to @{entry.App.Asked}; {beyond.Release.Version} is beyond",
        _ when entry.App.Asked is { } asked => $"kept to @{asked}",
        _ => "",
    };

    private static string State(DueState state) => state switch
    {
        DueState.Current => "current",
        DueState.Due => "due",
        DueState.Pinned => "pinned",
        DueState.Paused => "paused",
        DueState.NotFetched => "not-fetched",
        DueState.Dropped => "dropped",
        _ => "not-offered",
    };
}
