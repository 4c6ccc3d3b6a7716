namespace AmberCrate.Core.Toml;

/// <summary>A local date.</summary>
public sealed record TomlDate(DateOnly Value, int Line) : TomlValue(Line)
{
    /// <inheritdoc/>
    public override string Kind => $"the date {Value:yyyy-MM-dd}";
}
