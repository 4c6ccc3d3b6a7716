namespace AmberCrate.Cli.Shell;

/// <summary>A library that the program is made of or uses, as JSON.</summary>
internal sealed record PartDocument(string Name, string Version, bool Inside, string? Package);
