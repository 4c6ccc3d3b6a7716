using AmberCrate.Core.Planning;
using AmberCrate.Core.Values;
using AmberCrate.Engine.Operations;

namespace AmberCrate.Cli.Views;

/// <summary>Shows what is on the machine.</summary>
internal static class ListView
{
    /// <summary>Shows apps, of one scope or of both.</summary>
    /// <param name="output">Where to.</param>
    /// <param name="entries">The apps, each with its scope, ordered by id.</param>
    /// <param name="station">The scope that was asked for.</param>
    /// <param name="other">The other scope, where its apps are among them.</param>
    public static void Show(Output output, IReadOnlyList<(InstallScope Scope, DueEntry Entry)> entries, Workstation station, Workstation? other)
    {
        if (output.IsJson)
        {
            DueView.WriteJson(output, entries, station);
            return;
        }

        var table = new TextTable(["app", "version", "newer", "asked for", .. other is null ? Array.Empty<string>() : ["for"], "catalogue", "kind", "name"]);
        foreach (var (scope, entry) in entries)
        {
            var app = entry.App;
            var newer = entry.Available ?? entry.Beyond;
            table.Add(
            [
                new Cell(app.Id.Text, Tone.Strong), app.Version.Text, new Cell(newer?.Release.Version.Text ?? "", entry.State == DueState.Due ? Tone.Attention : Tone.Quiet),
                app.Asked is null ? "" : $"@{app.Asked}", .. other is null ? Array.Empty<Cell>() : [scope == InstallScope.Everyone ? "everyone" : "you"], app.Catalogue.Text, Words.Of(app.Kind), app.Name,
            ]);
        }

        output.Table(table);
        var outdated = entries.Count(item => item.Entry.State == DueState.Due);
        var age = Words.Age(station);
        if (other is not null) age = $"{Words.For(station.Layout.Scope)}: {age} · {Words.For(other.Layout.Scope)}: {Words.Age(other)}";
        output.Line(new Cell(Words.Count(entries.Count, "app") + ", " + outdated + " outdated · " + age, Tone.Quiet));
        if (other is not null) ScopeView.ShowTwice(output, [.. entries.GroupBy(item => item.Entry.App.Id).Where(group => group.Count() > 1).SelectMany(group => group.Where(item => item.Scope == other.Layout.Scope)).Select(item => item.Entry.App)], station);
    }
}
