namespace AmberCrate.Cli.Documents;

/// <summary>A part that is linked into the program, as JSON.</summary>
internal sealed record PartDocument(
    string Name,
    string Version);
