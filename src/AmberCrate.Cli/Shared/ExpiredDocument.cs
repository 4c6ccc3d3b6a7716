namespace AmberCrate.Cli.Shared;

/// <summary>A catalogue whose signatures had expired when its data were used, as JSON.</summary>
internal sealed record ExpiredDocument(string Name, string Since);
