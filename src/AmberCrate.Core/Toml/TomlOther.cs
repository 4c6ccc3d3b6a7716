namespace AmberCrate.Core.Toml;

/// <summary>A value of a kind that none of our formats uses: a float, a time.</summary>
public sealed record TomlOther(string Kind, int Line) : TomlValue(Line)
{
    /// <inheritdoc/>
    public override string Kind { get; } = Kind;
}
