using System.Text.Json;

namespace AmberCrate.Core.Formats;

/// <summary>True or false.</summary>
internal sealed class TruthFormat : ValueFormat<bool>
{
    /// <inheritdoc/>
    public override string Type => "boolean";

    /// <inheritdoc/>
    public override object? Read(TableReader table, string key, bool isRequired) => table.Has(key) ? table.Truth(key) : null;

    /// <inheritdoc/>
    public override object Read(ref JsonLineReader line, bool isRequired)
    {
        line.NextValue();
        return line.Truth();
    }

    /// <inheritdoc/>
    public override void Write(Utf8JsonWriter json, bool value) => json.WriteBooleanValue(value);
}
