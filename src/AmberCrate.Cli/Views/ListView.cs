using AmberCrate.Core.Planning;
using AmberCrate.Engine.Running;

namespace AmberCrate.Cli.Views;

/// <summary>Shows what is on the machine.</summary>
internal static class ListView
{
    public static void Show(Output output, IReadOnlyList<DueEntry> entries, Workstation station)
    {
        if (output.IsJson)
        {
            DueView.WriteJson(output, entries, station);
            return;
        }

        var table = new TextTable("app", "version", "newer", "asked for", "catalogue", "kind", "name");
        foreach (var entry in entries)
        {
            var app = entry.App;
            var newer = entry.Available ?? entry.Beyond;
            table.Add(
                new Cell(app.Id.Text, Tone.Strong), app.Version.Text, new Cell(newer?.Release.Version.Text ?? "", entry.State == DueState.Due ? Tone.Attention : Tone.Quiet),
                app.Asked is null ? "" : $"@{app.Asked}", app.Catalogue.Text, Words.Of(app.Kind), app.Name);
        }

        output.Table(table);
        var outdated = entries.Count(entry => entry.State == DueState.Due);
        var age = Words.Age(station.CatalogueStates(), station.Clock.GetUtcNow());
        output.Line(new Cell(Words.Count(entries.Count, "app") + ", " + outdated + " outdated · " + age, Tone.Quiet));
    }
}
