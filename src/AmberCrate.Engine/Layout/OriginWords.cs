using AmberCrate.Core.Values;

namespace AmberCrate.Engine.Layout;

/// <summary>The words for <see cref="SettingOrigin"/>, in JSON and on the terminal.</summary>
public static class OriginWords
{
    /// <summary>A word for each origin.</summary>
    public static WordTable<SettingOrigin> Origins { get; } = new(
        (SettingOrigin.Option, "option"), (SettingOrigin.Variable, "variable"), (SettingOrigin.File, "file"),
        (SettingOrigin.Default, "default"));
}
