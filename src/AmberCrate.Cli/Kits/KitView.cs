using AmberCrate.Cli.Tables;
using AmberCrate.Cli.Terminal;
using AmberCrate.Cli.Texts;
using AmberCrate.Core.Problems;
using AmberCrate.Engine.KitFiles;
using AmberCrate.Engine.Kits;

namespace AmberCrate.Cli.Kits;

/// <summary>Shows kits.</summary>
internal static class KitView
{
    /// <summary>Shows a kit that has been made.</summary>
    public static void ShowMade(Output output, KitResult result)
    {
        if (output.IsJson)
        {
            output.Json(KitDocument.FromResult(result));
            return;
        }

        output.Line(
            $"Wrote {Words.Count(result.Bundle.Apps.Count, "app")}, {Words.Size(result.Size)}, to ",
            new Cell(string.Join(", ", result.Files), Tone.Strong));
        if (result.Kept > 0)
            output.Line(new Cell($"{Words.Size(result.Kept)} of it were there from an earlier try", Tone.Quiet));
        ShowNotSigned(output, result);
        ShowRequirements(output, result);
        var file = result.Files[0];
        if (result.Program is { } program) output.Line($"on the other machine: {program} equip");
        else output.Next(NextCommand.Create("equip", file));
    }

    private static void ShowNotSigned(Output output, KitResult result)
    {
        if (result.Manifest.NotSigned is { Count: > 0 } names)
            output.Line(new Cell(
                $"not signed: what it has from {string.Join(", ", names)}; equip takes --unsigned for it", Tone.Attention));
    }

    /// <summary>What the other machine must have, as far as the cards say.</summary>
    private static void ShowRequirements(Output output, KitResult result)
    {
        const int most = 8;
        var words = result.Requirements.Select(requirement => requirement.Words).Distinct().ToList();
        var more = words.Count > most ? $" and {words.Count - most} more; --json lists them" : "";
        if (words.Count == 0) return;
        output.Line(new Cell($"the other machine must have: {string.Join(", ", words.Take(most))}{more}", Tone.Attention));
        if (result.Silent.Count > 0)
            output.Line(new Cell(
                $"what the other machine must have is not known for {Words.Count(result.Silent.Count, "app")}", Tone.Quiet));
    }

    private static string Age(KitResult result) =>
        PlainText.Date(DateOnly.FromDateTime(result.Manifest.Created.UtcDateTime))
        + (result.Now - result.Manifest.Created is { TotalDays: >= 2 } age ? $", {(int)age.TotalDays} days ago" : "");

    /// <summary>Shows what is in a kit.</summary>
    public static void Show(Output output, KitResult result)
    {
        if (output.IsJson)
        {
            output.Json(KitDocument.FromResult(result));
            return;
        }

        var table = new TextTable(Shapes.Kit);
        foreach (var app in result.Bundle.Apps)
        {
            var newer = result.Newer.GetValueOrDefault(app.Reference.Name);
            table.Add(
                new Cell(app.Reference.Name, Tone.Strong), app.Version!.Text, app.Reference.Catalogue?.Text,
                Words.Size(result.Sizes[app.Sha256!]),
                new Cell(
                    string.Join("; ", new[] { app.IsDependency ? "dependency" : "", newer is null ? "" : $"{newer} is newer" }
                        .Where(part => part.Length > 0)),
                    newer is null ? Tone.Plain : Tone.Attention));
        }

        var parts = result.Files.Count > 1 ? $" in {result.Files.Count} files" : "";
        var program = result.Manifest.Blobs.Any(blob => blob.MediaType == KitMedia.Program) ? " · with acrate" : "";
        output.List(
            $"{result.Manifest.Title}: {Words.Count(result.Bundle.Apps.Count, "app")}, {Words.Size(result.Size)}{parts}", table,
            $"for {result.Manifest.Platform} · sealed {Age(result)}{program}");
        foreach (var catalogue in result.Bundle.Catalogues)
            output.Line(new Cell($"catalogue {catalogue.Name}: {catalogue.Location}", Tone.Quiet));
        ShowNotSigned(output, result);
        output.Next(NextCommand.Create("equip", result.Files[0]));
    }
}
