namespace AmberCrate.Cli.Cataloguing;

/// <summary>How a role of a signed catalogue stands, as JSON.</summary>
internal sealed record RoleDocument(
    string Name, long Version, string Until, bool EndsSoon, int Threshold, IReadOnlyList<string> Keys,
    IReadOnlyList<string>? Apps);
