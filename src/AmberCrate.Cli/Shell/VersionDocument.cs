using AmberCrate.Cli.Terminal;

namespace AmberCrate.Cli.Shell;

/// <summary>The version of the program and its parts, as JSON.</summary>
internal sealed record VersionDocument(
    string Version,
    IReadOnlyList<PartDocument> Parts,
    int Format = DocumentFormat.Number);
