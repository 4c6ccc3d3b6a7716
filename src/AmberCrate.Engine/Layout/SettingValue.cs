namespace AmberCrate.Engine.Layout;

/// <summary>The value of a setting, and where it comes from.</summary>
/// <param name="Key">The setting.</param>
/// <param name="Text">The value as it was written.</param>
/// <param name="Origin">What kind of place it comes from.</param>
/// <param name="Where">The place: the option, the variable, or file and line; empty for the default.</param>
public sealed record SettingValue(SettingKey Key, string Text, SettingOrigin Origin, string Where);
