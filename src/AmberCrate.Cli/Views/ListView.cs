using AmberCrate.Cli.Documents;
using AmberCrate.Core.Planning;
using AmberCrate.Core.Values;
using AmberCrate.Engine.Operations;

namespace AmberCrate.Cli.Views;

/// <summary>Shows what is on the machine.</summary>
internal static class ListView
{
    public static void Show(Output output, ListResult result)
    {
        if (output.IsJson)
        {
            output.Json(ListDocument.Of(result.Entries, result.Freshness));
            return;
        }

        var outdated = result.Entries.Count(item => item.Entry.State == DueState.Due);
        output.List($"{Words.Count(result.Entries.Count, "app")}, {outdated} outdated", TableOf(result), Age(result));
        ScopeView.ShowInBothScopes(output, result.InBothScopes, result.Scope, result.FirstOnPath);
    }

    private static TextTable TableOf(ListResult result)
    {
        string[] scope = result.OtherFreshness is null ? [] : ["for"];
        var table = new TextTable(["app", "version", "newer", "follows", .. scope, "catalogue", "kind", "name", "remark"]);
        foreach (var (whom, entry) in result.Entries)
        {
            var app = entry.App;
            var newer = (entry.Available ?? entry.Newer)?.Release.Version.Text ?? "";
            Cell[] shownScope = result.OtherFreshness is null ? [] : [whom == InstallScope.AllUsers ? "all users" : "you"];
            table.Add(
            [
                new Cell(app.Id.Text, Tone.Strong), app.Version.Text,
                new Cell(newer, entry.State == DueState.Due ? Tone.Attention : Tone.Quiet),
                app.Follows is null ? "" : $"@{app.Follows}", .. shownScope, app.Catalogue.Text, Words.Of(app.Kind), app.Name,
                entry.IsUnknown || entry.State is DueState.HeldBack or DueState.Changed ? Words.Remark(entry) : "",
            ]);
        }

        return table;
    }

    private static string Age(ListResult result)
    {
        var age = Words.Age(result.Freshness);
        if (result.OtherFreshness is not { } other) return age;
        return $"{ScopeText.For(result.Scope)}: {age} · {ScopeText.For(ScopeView.OtherThan(result.Scope))}: {Words.Age(other)}";
    }
}
