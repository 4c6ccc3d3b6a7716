using AmberCrate.Cli.Terminal;
using AmberCrate.Core.Bundles;

namespace AmberCrate.Cli.Exporting;

/// <summary>What an export has written, as JSON.</summary>
internal sealed record ExportDocument(
    string File,
    string As,
    int Apps,
    IReadOnlyList<string> NotOnThisMachine,
    IReadOnlyList<LeftBehindDocument> LeftBehind,
    int Format = DocumentFormat.Number);

/// <summary>Software that a bundle cannot carry, as JSON.</summary>
internal sealed record LeftBehindDocument(string Name, string? Version, string? Seen, string Reason)
{
    public static LeftBehindDocument FromApp(LeftBehind left) => new(left.Name, left.Version, left.Seen, left.Reason);
}
