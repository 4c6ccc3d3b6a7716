namespace AmberCrate.Cli.Running;

/// <summary>Another catalogue that has an app, as JSON.</summary>
internal sealed record AlsoInDocument(
    string Catalogue,
    string? Version);
