using AmberCrate.Core.Bundles;
using AmberCrate.Core.Machine;

namespace AmberCrate.Cli.Views;

/// <summary>Says what an export has written, and what it could not carry.</summary>
internal static class ExportView
{
    public static void Show(Output output, (string Path, IReadOnlyList<string> NotHere) written, Bundle bundle, IReadOnlyList<InstalledApp> notCarried)
    {
        if (output.IsJson)
        {
            WriteJson(output, written, bundle, notCarried);
            return;
        }

        output.Line($"Wrote {Words.Count(bundle.Apps.Count, "app")} from {Words.Count(bundle.Catalogues.Count, "catalogue")} to ", new Cell(written.Path, Tone.Strong));
        if (written.NotHere.Count > 0) output.Line($"In the file but not on this machine, and left as they are: {string.Join(", ", written.NotHere)}");
        ShowNotCarried(output, notCarried);
    }

    public static void ShowNotCarried(Output output, IReadOnlyList<InstalledApp> notCarried)
    {
        foreach (var app in notCarried) output.Notice($"{app.Id} {app.Version} is not in the bundle: its catalogue {app.Catalogue} is not known here any more");
    }

    private static void WriteJson(Output output, (string Path, IReadOnlyList<string> NotHere) written, Bundle bundle, IReadOnlyList<InstalledApp> notCarried) => output.Json(json =>
    {
        json.WriteStartObject();
        json.WriteString("file", written.Path);
        json.WriteNumber("apps", bundle.Apps.Count);
        json.WriteStartArray("not_on_this_machine");
        foreach (var name in written.NotHere) json.WriteStringValue(name);
        json.WriteEndArray();
        json.WriteStartArray("not_carried");
        foreach (var app in notCarried) json.WriteStringValue(app.Id.Text);
        json.WriteEndArray();
        json.WriteEndObject();
    });
}
