using AmberCrate.Cli.Tables;
using AmberCrate.Cli.Terminal;
using AmberCrate.Engine.Exporting;

namespace AmberCrate.Cli.Shell;

/// <summary>Shows which version this is, and what is inside.</summary>
internal static class VersionView
{
    private const int NameWidth = 14;

    public static void Show(Output output, string version, IReadOnlyList<ComponentVersion> parts)
    {
        if (output.IsJson)
        {
            output.Json(new VersionDocument(
                version, [.. parts.Select(part => new PartDocument(part.Name, part.Version, part.IsInside, part.Package))]));
            return;
        }

        output.Line($"acrate {version}");
        foreach (var part in parts)
        {
            var from = part.IsInside ? "inside" : "the system's";
            output.Line(
                new Cell($"  {part.Name.PadRight(NameWidth)}", Tone.Quiet),
                part.Package is { } package ? $"{part.Version}, {from}, from {package}" : $"{part.Version}, {from}");
        }
    }
}
