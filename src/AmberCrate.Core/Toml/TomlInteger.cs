namespace AmberCrate.Core.Toml;

/// <summary>An integer.</summary>
public sealed record TomlInteger(long Value, int Line) : TomlValue(Line)
{
    /// <inheritdoc/>
    public override string Kind => Value.ToString();
}
