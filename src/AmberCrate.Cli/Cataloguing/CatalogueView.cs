using AmberCrate.Cli.Shared;
using AmberCrate.Cli.Tables;
using AmberCrate.Cli.Terminal;
using AmberCrate.Cli.Texts;
using AmberCrate.Core.Catalogues;
using AmberCrate.Core.Problems;
using AmberCrate.Core.Trust;
using AmberCrate.Engine.Catalogues;
using AmberCrate.Engine.Cataloguing;
using AmberCrate.Engine.Trust;

namespace AmberCrate.Cli.Cataloguing;

/// <summary>Shows catalogues, and what has become of them.</summary>
internal static class CatalogueView
{
    private const int DigestShown = 12;

    public static void ShowAdded(Output output, RefreshResult result)
    {
        if (output.IsJson) output.Json(CataloguesDocument.FromRefreshes([result], output.Call));
        else output.Line(
            "Added ", new Cell(result.Catalogue.Name.Text, Tone.Strong),
            $": {result.State!.Title}, {Words.Count(result.State.Apps, "app")}");
    }

    public static void ShowRefreshed(Output output, IReadOnlyList<RefreshResult> results)
    {
        if (output.IsJson)
        {
            output.Json(CataloguesDocument.FromRefreshes(results, output.Call));
            return;
        }

        if (results.Count == 0) output.Line("No catalogue is to be refreshed.");
        foreach (var result in results)
        {
            if (result.Problem is { } problem) ShowFailed(output, result, problem);
            else output.Line(
                new Cell(result.Catalogue.Name.Text, Tone.Strong), $"  {News(result)}, {Words.Count(result.State!.Apps, "app")}");
            foreach (var frozen in result.State?.Frozen ?? [])
                output.Line(new Cell($"  {Words.Frozen(frozen)}", Tone.Attention));
        }
    }

    public static void ShowList(Output output, CatalogueList list)
    {
        if (output.IsJson)
        {
            output.Json(CataloguesDocument.FromList(list));
            return;
        }

        if (list.Entries.Count == 0)
        {
            output.Line("No catalogue has been added.");
            output.Next(NextCommand.Create("catalogue add", "NAME", "LOCATION"));
            return;
        }

        var table = new TextTable(Shapes.Catalogues);
        foreach (var entry in list.Entries)
        {
            var (catalogue, state) = entry;
            table.Add(
                new Cell(catalogue.Name.Text, Tone.Strong), state is null ? "" : $"{state.Apps}",
                state is null ? new Cell("never", Tone.Attention) : DataAge.Ago(state.Refreshed, list.Now),
                TrustOf(catalogue.Trust, entry.EndsFirst, list.Now), new Cell(catalogue.IsPaused ? "paused" : "", Tone.Attention),
                catalogue.Location, state?.Title ?? "");
        }

        output.List($"{Words.Count(list.Entries.Count, "catalogue")}, in order of preference", table, "");
    }

    /// <summary>What is believed of a catalogue, in a word or two.</summary>
    private static Cell TrustOf(CatalogueTrust trust, RoleState? first, DateTimeOffset now)
    {
        if (trust == CatalogueTrust.Cards) return new Cell("own cards", Tone.Quiet);
        if (trust.Root is null) return new Cell("not signed", Tone.Attention);
        if (first is null) return new Cell("signed, root missing", Tone.Attention);
        return first.Expires <= now
            ? new Cell($"expired {PlainText.Date(DateOnly.FromDateTime(first.Expires.UtcDateTime))}", Tone.Attention)
            : new Cell(
                $"signed until {PlainText.Date(DateOnly.FromDateTime(first.Expires.UtcDateTime))}",
                first.EndsSoon(now) ? Tone.Attention : Tone.Plain);
    }

    public static void ShowAbout(Output output, CatalogueAbout about)
    {
        if (output.IsJson)
        {
            output.Json(CatalogueAboutDocument.FromCatalogue(about));
            return;
        }

        var (catalogue, state) = (about.Catalogue, about.State);
        output.Line(new Cell(catalogue.Name.Text, Tone.Strong), state?.Title is { } title ? $"  {title}" : "");
        output.Fact("  location   ", catalogue.Location);
        foreach (var mirror in catalogue.Mirrors) output.Fact("  mirror     ", $"{mirror}");
        output.Fact("  refreshed  ", state is null ? "never" : PlainText.Time(state.Refreshed));
        output.Fact("  trust      ", TrustOf(catalogue.Trust, about.Trust?.EndsFirst, about.Now));
        if (catalogue.Trust.Root is { } root) output.Fact("  root       ", $"{root}, trusted when the catalogue was added");
        foreach (var frozen in state?.Frozen ?? [])
            output.Fact("  attention  ", new Cell(Words.Frozen(frozen), Tone.Attention));
        if (about.Trust is not { } trust) return;
        output.Line();
        var table = new TextTable(Shapes.Roles);
        foreach (var role in trust.Roles)
        {
            var rule = trust.RuleOf(role);
            table.Add(
                new Cell(role.Name, Tone.Strong), $"{role.Version}",
                new Cell(PlainText.Time(role.Expires), role.EndsSoon(about.Now) ? Tone.Attention : Tone.Plain),
                $"{rule.Threshold} of {rule.KeyIds.Count}",
                string.Join(' ', rule.KeyIds.Select(id => id[..DigestShown] + "…")));
        }

        output.Table(table);
        foreach (var delegation in trust.Roles.Select(role => role.Delegation).OfType<Delegation>())
            output.Line(
                new Cell(delegation.Name, Tone.Strong), $" signs {string.Join(", ", DelegatedApps.PatternsOf(delegation))}");
    }

    public static void ShowDropped(Output output, DroppedCatalogue dropped)
    {
        if (output.IsJson)
        {
            output.Json(new DroppedDocument(dropped.Name.Text, dropped.Apps));
            return;
        }

        var rest = dropped.Apps == 0
            ? "."
            : $". {Words.Count(dropped.Apps, "installed app")} came from it: they stay, and get no upgrades.";
        output.Line("Dropped ", new Cell(dropped.Name.Text, Tone.Strong), rest);
    }

    private static void ShowFailed(Output output, RefreshResult result, Problem problem)
    {
        output.Line(new Cell($"{result.Catalogue.Name}  not refreshed: ", Tone.Attention), problem.What);
        ErrorView.ShowRest(output, problem);
        foreach (var detail in problem.Details) output.Fact("    ", output.FormatAdvice(detail));
        output.Line(result.State is { } old
            ? $"  the data of {PlainText.Time(old.Refreshed)} stay in use"
            : "  nothing is known of it yet");
    }

    private static string News(RefreshResult result)
    {
        if (!result.Changed) return "nothing new";
        var parts = $"{result.PartsRead} of {Words.Count(result.PartsInAll, "part")} downloaded";
        var read = result.BundlesRead > 0 ? $", {Words.Count(result.BundlesRead, "bundle")} downloaded" : "";
        // A bundle that changed has another digest, so that it is both gone and new.
        var gone = result.BundlesGone - result.BundlesRead;
        return parts + read + (gone > 0 ? $", {Words.Count(gone, "bundle")} no longer there" : "");
    }
}
