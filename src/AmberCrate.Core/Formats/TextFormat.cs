using System.Text.Json;

namespace AmberCrate.Core.Formats;

/// <summary>A string.</summary>
/// <param name="most">The most characters.</param>
/// <param name="isValid">What else must be so; null for nothing. Not asked again for a line that was checked before.</param>
/// <param name="expected">What is expected then.</param>
internal sealed class TextFormat(int most, Func<string, bool>? isValid = null, string expected = "") : ValueFormat<string>
{
    /// <inheritdoc/>
    public override string Type => "string";

    /// <inheritdoc/>
    public override object? Read(TableReader table, string key, bool isRequired)
    {
        if (table.Text(key, isRequired, most) is not { } text) return null;
        if (isValid?.Invoke(text) != false) return text;
        table.AddFault(key, $"expected {expected}, found {JsonLineReader.Shown(text)}");
        return null;
    }

    /// <inheritdoc/>
    public override object Read(ref JsonLineReader line, bool isRequired)
    {
        line.NextValue();
        var text = line.Text(isRequired ? 1 : 0, most);
        return line.WasChecked || isValid?.Invoke(text) != false
            ? text
            : throw line.Fault($"expected {expected}, found {JsonLineReader.Shown(text)}");
    }

    /// <inheritdoc/>
    public override void Write(Utf8JsonWriter json, string value) => json.WriteStringValue(value);
}
