namespace AmberCrate.Cli.Running;

/// <summary>Something that a plan places, as JSON.</summary>
internal sealed record PlaceDocument(
    string App,
    string Kind,
    string Path,
    string? Hides);
