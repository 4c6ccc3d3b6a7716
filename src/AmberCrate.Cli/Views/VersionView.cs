using AmberCrate.Cli.Documents;

namespace AmberCrate.Cli.Views;

/// <summary>Shows which version this is, and what is inside.</summary>
internal static class VersionView
{
    private const int NameWidth = 14;

    public static void Show(Output output, string version, IReadOnlyList<(string Name, string Version)> parts)
    {
        if (output.IsJson)
        {
            output.Json(new VersionDocument(version, [.. parts.Select(part => new PartDocument(part.Name, part.Version))]));
            return;
        }

        output.Line($"acrate {version}");
        foreach (var (name, of) in parts) output.Line(new Cell($"  {name.PadRight(NameWidth)}", Tone.Quiet), of);
    }
}
