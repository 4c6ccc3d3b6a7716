namespace AmberCrate.Core.Toml;

/// <summary>
/// A string. <paramref name="Start"/> and <paramref name="Length"/> give the place of its token in the text, quotes included.
/// </summary>
public sealed record TomlString(string Value, int Line, int Start, int Length) : TomlValue(Line)
{
    /// <inheritdoc/>
    public override string Kind => $"\"{(Value.Length > 60 ? Value[..60] + "…" : Value)}\"";
}
