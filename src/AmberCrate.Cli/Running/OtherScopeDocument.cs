namespace AmberCrate.Cli.Running;

/// <summary>An app that is there in both scopes, as JSON.</summary>
internal sealed record OtherScopeDocument(
    string Id,
    string Scope,
    string Version);
