using AmberCrate.Engine.Layout;

namespace AmberCrate.Engine.Configuring;

/// <summary>What is set.</summary>
/// <param name="Values">Every setting with its value and where that comes from.</param>
/// <param name="Files">The configuration files that are read, the most important first.</param>
public sealed record SettingsResult(IReadOnlyList<SettingValue> Values, IReadOnlyList<string> Files);
