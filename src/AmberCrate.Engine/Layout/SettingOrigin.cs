namespace AmberCrate.Engine.Layout;

/// <summary>Where the value of a setting comes from.</summary>
public enum SettingOrigin
{
    /// <summary>An option of the command line.</summary>
    Option,

    /// <summary>An environment variable.</summary>
    Variable,

    /// <summary>A configuration file.</summary>
    File,

    /// <summary>It is not set.</summary>
    Default,
}
