using AmberCrate.Cli.Terminal;

namespace AmberCrate.Cli.Configuring;

/// <summary>All settings, as JSON.</summary>
internal sealed record SettingsDocument(
    IReadOnlyList<SettingDocument> Settings,
    IReadOnlyList<string> Files,
    int Format = DocumentFormat.Number);
