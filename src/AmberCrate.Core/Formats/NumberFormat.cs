using System.Text.Json;

namespace AmberCrate.Core.Formats;

/// <summary>A whole number within bounds.</summary>
/// <param name="least">The least.</param>
/// <param name="most">The most.</param>
internal sealed class NumberFormat(long least, long most) : ValueFormat<long>
{
    /// <inheritdoc/>
    public override string Type => "integer";

    /// <inheritdoc/>
    public override object? Read(TableReader table, string key, bool isRequired) => table.Number(key, least, most, isRequired);

    /// <inheritdoc/>
    public override object Read(ref JsonLineReader line, bool isRequired)
    {
        line.NextValue();
        return line.Number(least, most) ?? throw line.Fault($"expected a whole number from {least} to {most}");
    }

    /// <inheritdoc/>
    public override void Write(Utf8JsonWriter json, long value) => json.WriteNumberValue(value);
}
