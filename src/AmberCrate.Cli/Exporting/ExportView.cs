using AmberCrate.Cli.Tables;
using AmberCrate.Cli.Terminal;
using AmberCrate.Cli.Texts;
using AmberCrate.Core.Inventories;
using AmberCrate.Engine.Exporting;

namespace AmberCrate.Cli.Exporting;

/// <summary>Says what an export has written, and what it could not carry.</summary>
internal static class ExportView
{
    private const int MostNamed = 8;

    public static void Show(Output output, ExportResult result, InventoryForm form)
    {
        var left = result.Bundle.LeftBehind;
        if (result.Text is null)
        {
            output.Line("Nothing has been written.");
            return;
        }

        if (output.IsJson)
        {
            output.Json(new ExportDocument(
                result.File!, InventoryWords.Forms.WordOf(form), result.Bundle.Apps.Count, result.NotHere,
                [.. left.Select(LeftBehindDocument.FromApp)]));
            return;
        }

        if (result.File is { } file) ShowWritten(output, result, file);
        else output.Raw(result.Text);
        if (left.Count == 0) return;
        output.Notice($"{Words.Count(left.Count, "program")} cannot be carried"
            + $"{(form == InventoryForm.Bundle ? "; the bundle names them" : "")}:");
        foreach (var one in left.Take(output.IsVerbose ? left.Count : MostNamed))
            output.Notice(
                $"  {one.Name}{(one.Version is null ? "" : $" {one.Version}")}: {one.Reason}"
                    + $"{(one.Seen is null ? "" : $", seen in {one.Seen}")}");
        if (left.Count > MostNamed && !output.IsVerbose)
            output.Notice($"  and {left.Count - MostNamed} more; --verbose lists them all");
    }

    private static void ShowWritten(Output output, ExportResult result, string file)
    {
        var bundle = result.Bundle;
        output.Line(
            $"Wrote {Words.Count(bundle.Apps.Count, "app")} from {Words.Count(bundle.Catalogues.Count, "catalogue")} to ",
            new Cell(file, Tone.Strong));
        var observed = bundle.Apps.Where(app => app.IsObserved).Select(app => app.Reference.Name).ToList();
        if (observed.Count > 0)
            output.Line($"put there by others, and in a catalogue: {string.Join(", ", observed)}");
        if (result.NotHere.Count > 0)
            output.Line($"In the file but not on this machine, and left as they are: {string.Join(", ", result.NotHere)}");
    }
}
