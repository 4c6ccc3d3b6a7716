using System.Text.Json;

namespace AmberCrate.Core.Formats;

/// <summary>A string.</summary>
/// <param name="most">The most characters.</param>
/// <param name="isValid">What else must be so; null for nothing. Not asked again for a line that was checked before.</param>
/// <param name="expected">What is expected then.</param>
/// <param name="isOneLine">Whether white space, line breaks among it, is one space each time.</param>
internal sealed class TextFormat(
    int most, Func<string, bool>? isValid = null, string expected = "", bool isOneLine = false) : ValueFormat<string>
{
    /// <inheritdoc/>
    public override string Type => "string";

    /// <inheritdoc/>
    public override object? Read(TableReader table, string key, bool isRequired)
    {
        if (table.Text(key, isRequired, most) is not { } written) return null;
        var text = Spaced(written);
        if (isValid?.Invoke(text) != false) return text;
        table.AddFault(key, $"expected {expected}, found {JsonLineReader.Shown(text)}");
        return null;
    }

    /// <inheritdoc/>
    public override object Read(ref JsonLineReader line, bool isRequired)
    {
        line.NextValue();
        var text = Spaced(line.Text(isRequired ? 1 : 0, most));
        return line.WasChecked || isValid?.Invoke(text) != false
            ? text
            : throw line.Fault($"expected {expected}, found {JsonLineReader.Shown(text)}");
    }

    /// <inheritdoc/>
    public override void Write(Utf8JsonWriter json, string value) => json.WriteStringValue(value);

    private string Spaced(string text) => !isOneLine || text.AsSpan().IndexOfAny("\n\r\t") < 0
        ? text
        : string.Join(' ', text.Split(Array.Empty<char>(), StringSplitOptions.RemoveEmptyEntries));
}
