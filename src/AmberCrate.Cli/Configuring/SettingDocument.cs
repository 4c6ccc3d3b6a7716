namespace AmberCrate.Cli.Configuring;

/// <summary>A setting, as JSON.</summary>
internal sealed record SettingDocument(
    string Name,
    string Value,
    string Origin,
    string Where,
    string? Option,
    string Variable);
