using AmberCrate.Cli.Shared;
using AmberCrate.Cli.Tables;
using AmberCrate.Cli.Terminal;
using AmberCrate.Cli.Texts;
using AmberCrate.Core.Catalogues;
using AmberCrate.Core.Due;
using AmberCrate.Core.Machine;
using AmberCrate.Core.Problems;
using AmberCrate.Core.Values;
using AmberCrate.Engine.Listing;

namespace AmberCrate.Cli.Listing;

/// <summary>Shows what is on the machine.</summary>
internal static class ListView
{
    /// <summary>Shows it.</summary>
    /// <param name="output">Where to.</param>
    /// <param name="result">The apps.</param>
    /// <param name="withSizes">Whether it is shown how much room each takes.</param>
    /// <param name="withPlaces">Whether it is shown where each lies.</param>
    public static void Show(Output output, ListResult result, bool withSizes, bool withPlaces)
    {
        if (output.IsJson)
        {
            output.Json(ListDocument.FromEntries(result.Entries, result.Freshness));
            return;
        }

        var outdated = result.Entries.Count(item => item.Entry.State == DueState.Due);
        var damaged = result.Entries.Count(item => item.Marks.Contains(AppMark.Damaged));
        var room = withSizes ? $", {Words.Size(result.Entries.Sum(item => item.Entry.App.Size ?? 0))}" : "";
        output.List(
            $"{Words.Count(result.Entries.Count, "app")}, {outdated} outdated"
                + Words.HeldFixes(result.Entries)
                + $"{(damaged > 0 ? $", {damaged} damaged" : "")}{room}",
            TableOf(result, withSizes, withPlaces), Age(result));
        ScopeView.ShowInBothScopes(output, result.InBothScopes, result.Scope, result.FirstOnPath);
        if (damaged > 0) output.Next(NextCommand.Create("check"));
    }

    private static TextTable TableOf(ListResult result, bool withSizes, bool withPlaces)
    {
        var table = new TextTable(Shapes.Installed);
        foreach (var item in result.Entries)
        {
            var (entry, app) = (item.Entry, item.Entry.App);
            var newer = (entry.Available ?? entry.Newer)?.Release.Version.Text ?? "";
            var scope = result.OtherFreshness is null ? "" : item.Scope == InstallScope.AllUsers ? "all users" : "you";
            table.Add(
                new Cell(app.Id.Text, Tone.Strong), entry.Version.Text,
                new Cell(newer, entry.State == DueState.Due ? Tone.Attention : Tone.Quiet),
                app.Follows is null ? "" : $"@{app.Follows}", scope, app.Catalogue.Text, Words.WordFor(app.Kind),
                !withSizes ? "" : app.Size is { } size ? Words.Size(size) : "?",
                withSizes && app.Shared > 0 ? Words.Size(app.Shared) : "",
                app.Name, new Cell(DataAge.Ago(app.InstalledAt, result.Freshness.Now), Tone.Quiet),
                withPlaces ? item.Place : "",
                new Cell(Remark(item, result.Today), item.Marks.Any(IsBad) ? Tone.Attention : Tone.Plain));
        }

        return table;
    }

    private static bool IsBad(AppMark mark) => mark is AppMark.Damaged or AppMark.Security or AppMark.Withdrawn;

    private static string Remark(ScopedEntry item, DateOnly today)
    {
        var entry = item.Entry;
        var marks = item.Marks.Select(Words.WordFor).Where(words => words.Length > 0);
        var isTold = entry.IsUnknown || entry.Pin is not null || entry.Withdrawn is not null || entry.IsSecurity
            || entry.HeldFix is not null
            || entry.State is DueState.HeldBack or DueState.Changed or DueState.OtherPlatform;
        var standing = !isTold ? "" : Words.Remark(entry, today);
        var isPinTold = entry.State == DueState.Pinned || (entry.State == DueState.Due && entry.IsNewerPinned);
        var pin = entry.Pin is { } held && !held.IsLapsed(today) && !isPinTold ? held.Words : "";
        return string.Join("; ", new[] { standing, pin, entry.App.Platform is { } platform ? $"for {platform}"
            : "" }.Concat(marks).Where(part => part.Length > 0));
    }

    private static string Age(ListResult result)
    {
        var age = Words.Age(result.Freshness);
        if (result.OtherFreshness is not { } other) return age;
        return $"{ScopeText.For(result.Scope)}: {age} · {ScopeText.For(ScopeView.OtherThan(result.Scope))}: {Words.Age(other)}";
    }
}
