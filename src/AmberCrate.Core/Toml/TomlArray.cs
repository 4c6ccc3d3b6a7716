namespace AmberCrate.Core.Toml;

/// <summary>An array, written inline or as <c>[[name]]</c>.</summary>
public sealed record TomlArray(List<TomlValue> Items, int Line) : TomlValue(Line)
{
    /// <inheritdoc/>
    public override string Kind => "an array";
}
