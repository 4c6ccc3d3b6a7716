namespace AmberCrate.Cli.Documents;

/// <summary>Another catalogue that has an app, as JSON.</summary>
internal sealed record AlsoInDocument(
    string Catalogue,
    string? Version);
