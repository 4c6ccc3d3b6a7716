using AmberCrate.Cli.Tables;
using AmberCrate.Cli.Terminal;
using AmberCrate.Cli.Texts;
using AmberCrate.Core.Bundles;
using AmberCrate.Core.Problems;
using AmberCrate.Engine.Bundling;

namespace AmberCrate.Cli.Bundling;

/// <summary>Shows what is in bundles, and what was done with them.</summary>
internal static class BundleView
{
    /// <summary>Shows what a bundle lists.</summary>
    /// <param name="output">Where to.</param>
    /// <param name="opened">The bundle.</param>
    /// <param name="isFlat">Whether the layers below are shown too, and what does not count here.</param>
    public static void Show(Output output, OpenedBundle opened, bool isFlat)
    {
        if (output.IsJson)
        {
            output.Json(BundleDocument.FromBundle(opened));
            return;
        }

        var bundle = opened.Flat.Bundle;
        if (opened.Flat.IsForOthers)
            output.Line(new Cell($"for other machines: {opened.Top.Bundle.When!.Words}", Tone.Attention));
        var own = isFlat ? opened.Flat.Entries : [.. opened.Flat.Entries.Where(entry => entry.LeftOut is null)];
        var table = new TextTable(Shapes.Bundle);
        foreach (var entry in own)
        {
            var isOut = entry.LeftOut is not null;
            Cell[] cells =
            [
                new Cell(entry.App.Reference.ToString(), isOut ? Tone.Quiet : Tone.Strong),
                entry.App.Version?.Text
                    ?? new Cell(entry.App.Reference.Selector is null ? "newest" : "newest that fits", Tone.Quiet),
                new Cell(isFlat ? entry.Place : "", Tone.Quiet),
                new Cell(Remark(entry), isOut ? Tone.Attention : Tone.Plain),
            ];
            table.Add(cells);
        }

        output.List(
            $"{bundle.Title ?? opened.Name}: {Words.Count(bundle.Apps.Count, "app")} from "
                + $"{Words.Count(bundle.Catalogues.Count, "catalogue")}", table, Basis(opened));
        foreach (var catalogue in bundle.Catalogues)
            output.Line(new Cell($"catalogue {catalogue.Name}: {catalogue.Location}", Tone.Quiet));
        foreach (var unmatched in opened.Flat.Unmatched)
            output.Fact(new Cell("matches nothing  ", Tone.Attention), unmatched);
        foreach (var left in bundle.LeftBehind)
            output.Line(
                new Cell("not carried  ", Tone.Attention),
                $"{left.Name}{(left.Version is null ? "" : " " + left.Version)}: {left.Reason}"
                    + $"{(left.Seen is null ? "" : $", seen in {left.Seen}")}");
        output.Next(NextCommand.Create("equip", opened.Name, "--dry-run"));
    }

    /// <summary>Shows the bundles that catalogues carry.</summary>
    public static void ShowCarried(Output output, IReadOnlyList<OpenedBundle> bundles)
    {
        if (output.IsJson)
        {
            output.Json(new BundlesDocument([.. bundles.Select(BundleDocument.FromBundle)]));
            return;
        }

        var table = new TextTable(Shapes.Bundles);
        foreach (var one in bundles)
            table.Add(new Cell(one.Name, Tone.Strong), $"{one.Flat.Bundle.Apps.Count}", one.Flat.Bundle.Title);
        output.List(bundles.Count == 0 ? "No catalogue carries such a bundle." : Words.Count(bundles.Count, "bundle"), table, "");
        if (bundles.Count > 0) output.Next(NextCommand.Create("bundle view", bundles[0].Name));
    }

    /// <summary>Shows what editing has done.</summary>
    public static void ShowEdit(Output output, BundleEdit edit)
    {
        if (output.IsJson)
        {
            output.Json(new BundleEditDocument(
                edit.File, edit.Bundle.Apps.Count, Names(edit.Added), Names(edit.Changed), Names(edit.Unchanged), edit.Dropped,
                edit.DroppedBelow));
            return;
        }

        Say("added", Names(edit.Added));
        Say("changed", Names(edit.Changed));
        Say("unchanged", Names(edit.Unchanged));
        Say("taken out", edit.Dropped);
        Say("dropped from the bundles below", edit.DroppedBelow);
        output.Line(new Cell(edit.File, Tone.Strong), $" lists {Words.Count(edit.Bundle.Apps.Count, "app")}.");

        void Say(string what, IReadOnlyList<string> names)
        {
            if (names.Count > 0) output.Line($"{what}: ", new Cell(string.Join(", ", names), Tone.Strong));
        }
    }

    /// <summary>Shows how a bundle stands to the catalogues.</summary>
    public static void ShowCheck(Output output, BundleCheck check)
    {
        if (output.IsJson)
        {
            output.Json(BundleCheckDocument.FromCheck(check, output.Call));
            return;
        }

        var table = new TextTable(Shapes.BundleFindings);
        foreach (var finding in check.Findings)
        {
            var tone = finding.Kind < BundleFindingKind.Behind ? Tone.Attention : Tone.Plain;
            table.Add(
                new Cell(BundleFindingWords.Kinds.WordOf(finding.Kind), tone), new Cell(finding.App ?? "", Tone.Strong),
                output.FormatAdvice(finding.Words), new Cell(finding.Place ?? "", Tone.Quiet));
        }

        var broken = check.Findings.Count(finding =>
            finding.Kind is BundleFindingKind.NotOffered or BundleFindingKind.NotAsSealed);
        var apps = check.Bundle.Flat.Bundle.Apps.Count;
        output.List(
            broken == 0 ? $"{Words.Count(apps, "app")}, all offered" : $"{broken} of {Words.Count(apps, "app")} not offered",
            table, Words.Age(check.Freshness));
    }

    /// <summary>Shows a bundle that has been sealed.</summary>
    public static void ShowSealed(Output output, SealResult result)
    {
        var apps = result.Bundle.Apps.Count;
        if (output.IsJson)
        {
            output.Json(new SealedDocument(result.File, apps, result.DownloadSize));
            return;
        }

        var dependencies = result.Bundle.Apps.Count(app => app.IsDependency);
        output.Line(
            $"Sealed {Words.Count(apps, "app")}{(dependencies > 0 ? $", {dependencies} of them dependencies," : "")} in ",
            new Cell(result.File, Tone.Strong));
        output.Line(new Cell(
            $"{Words.Size(result.DownloadSize)} to download. Every version and digest is fixed. This is not a signature.",
            Tone.Quiet));
    }

    private static IReadOnlyList<string> Names(IReadOnlyList<BundleApp> apps) =>
        [.. apps.Select(app => app.Reference.ToString())];

    private static string Basis(OpenedBundle opened)
    {
        var bundle = opened.Flat.Bundle;
        var parts = new[]
        {
            bundle.Sealed is { } day ? $"sealed on {PlainText.Date(day)}" : "",
            bundle.Captured is { } captured ? $"captured on {captured.On}, {PlainText.Date(captured.Date)}" : "",
            opened.Top.Bundle.BuildsOn.Count > 0
                ? $"builds on {string.Join(", ", opened.Top.Bundle.BuildsOn.Select(below => below.Place))}"
                : "",
        };
        return string.Join(" · ", parts.Where(part => part.Length > 0));
    }

    private static string Remark(FlatEntry entry) => string.Join("; ", new[]
    {
        entry.LeftOut ?? "",
        entry.App.IsDependency ? "dependency" : "",
        entry.App.IsObserved ? "was put there by others" : "",
        entry.App.Platform is { } platform ? $"for {platform}" : "",
        entry.App.Pin?.Words ?? "",
        entry.App.InstallerArguments.Count > 0 ? $"to its installer: {string.Join(' ', entry.App.InstallerArguments)}" : "",
    }.Where(part => part.Length > 0));
}
