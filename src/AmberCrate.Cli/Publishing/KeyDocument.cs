namespace AmberCrate.Cli.Publishing;

/// <summary>A public key, as JSON.</summary>
internal sealed record KeyDocument(string Name, string Id, string Type, string Public);
