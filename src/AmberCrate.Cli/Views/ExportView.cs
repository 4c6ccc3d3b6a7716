using AmberCrate.Cli.Documents;
using AmberCrate.Core.Bundles;
using AmberCrate.Engine.Operations;

namespace AmberCrate.Cli.Views;

/// <summary>Says what an export has written, and what it could not carry.</summary>
internal static class ExportView
{
    public static void Show(Output output, ExportResult result)
    {
        if (output.IsJson)
        {
            output.Json(new ExportDocument(
                result.File!, result.Bundle.Apps.Count, result.NotHere, [.. result.NotCarried.Select(app => app.Id.Text)]));
            return;
        }

        if (result.File is { } file) ShowWritten(output, result, file);
        else output.Raw(BundleWriter.Write(result.Bundle));
        foreach (var app in result.NotCarried)
            output.Notice(
                $"{app.Id} {app.Version} is not in the bundle: its catalogue {app.Catalogue} is not known here any more");
    }

    private static void ShowWritten(Output output, ExportResult result, string file)
    {
        var bundle = result.Bundle;
        output.Line(
            $"Wrote {Words.Count(bundle.Apps.Count, "app")} from {Words.Count(bundle.Catalogues.Count, "catalogue")} to ",
            new Cell(file, Tone.Strong));
        if (result.NotHere.Count > 0)
            output.Line($"In the file but not on this machine, and left as they are: {string.Join(", ", result.NotHere)}");
    }
}
