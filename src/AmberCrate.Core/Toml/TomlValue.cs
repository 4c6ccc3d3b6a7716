namespace AmberCrate.Core.Toml;

/// <summary>A value of a TOML document together with the place where it stands.</summary>
/// <param name="Line">The line of the value, counted from 1.</param>
public abstract record TomlValue(int Line)
{
    /// <summary>The kind of value, in words for messages.</summary>
    public abstract string Kind { get; }
}
