namespace AmberCrate.Cli.Shared;

/// <summary>Apps of another maintainer that are not up to date with their catalogue, as JSON.</summary>
internal sealed record FrozenDocument(string Maintainer, string Why);
