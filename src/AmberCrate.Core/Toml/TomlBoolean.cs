namespace AmberCrate.Core.Toml;

/// <summary>A boolean.</summary>
public sealed record TomlBoolean(bool Value, int Line) : TomlValue(Line)
{
    /// <inheritdoc/>
    public override string Kind => Value ? "true" : "false";
}
