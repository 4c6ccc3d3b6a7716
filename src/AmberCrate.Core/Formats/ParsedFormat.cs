using System.Text;
using System.Text.Json;

namespace AmberCrate.Core.Formats;

/// <summary>A string that a parser makes a value of.</summary>
/// <param name="parse">The parser.</param>
/// <param name="expected">What it accepts, for messages.</param>
/// <param name="write">Writes a value as a string.</param>
/// <param name="usual">Values that nearly always stand there, so that they need not be parsed again and again.</param>
internal sealed class ParsedFormat<T>(
    TableReader.TextParser<T> parse, string expected, Func<T, string> write, params T[] usual) : ValueFormat<T>
    where T : class
{
    private const int Longest = 20_000;

    private readonly (byte[] Text, T Value)[] _usual = [.. usual.Select(value => (Encoding.UTF8.GetBytes(write(value)), value))];

    /// <inheritdoc/>
    public override string Type => "string";

    /// <inheritdoc/>
    public override object? Read(TableReader table, string key, bool isRequired) =>
        table.Parsed(key, parse, expected, isRequired);

    /// <inheritdoc/>
    public override object Read(ref JsonLineReader line, bool isRequired)
    {
        line.NextValue();
        foreach (var (known, value) in _usual)
        {
            if (line.IsText(known)) return value;
        }

        var text = line.Text(0, Longest);
        return parse(text, out var parsed)
            ? parsed!
            : throw line.Fault($"expected {expected}, found {JsonLineReader.Shown(text)}");
    }

    /// <inheritdoc/>
    public override void Write(Utf8JsonWriter json, T value) => json.WriteStringValue(write(value));
}
