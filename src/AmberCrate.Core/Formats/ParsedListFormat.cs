using System.Text.Json;

namespace AmberCrate.Core.Formats;

/// <summary>An array of strings; a parser makes a value of each.</summary>
/// <param name="parse">The parser.</param>
/// <param name="expected">What it accepts, for messages.</param>
/// <param name="write">Writes a value as a string.</param>
/// <param name="longest">The most characters of a string.</param>
/// <param name="most">The most strings.</param>
internal sealed class ParsedListFormat<T>(
    TableReader.TextParser<T> parse, string expected, Func<T, string> write, int longest, int most = int.MaxValue)
    : ValueFormat<IReadOnlyList<T>>
    where T : class
{
    /// <inheritdoc/>
    public override string Type => "array of strings";

    /// <inheritdoc/>
    public override object? Read(TableReader table, string key, bool isRequired)
    {
        if (!table.Has(key)) return null;
        var values = new List<T>();
        foreach (var text in table.Texts(key, longest))
        {
            if (parse(text, out var value)) values.Add(value!);
            else table.AddFault(key, $"expected {expected}, found {JsonLineReader.Shown(text)}");
        }

        if (values.Count > most) table.AddFault(key, $"expected at most {most}, found {values.Count}");
        return values;
    }

    /// <inheritdoc/>
    public override object Read(ref JsonLineReader line, bool isRequired)
    {
        line.BeginArray("strings");
        var values = new List<T>();
        while (line.NextItem())
        {
            var text = line.Text(0, longest, "an array of strings");
            values.Add(parse(text, out var value)
                ? value!
                : throw line.Fault($"expected {expected}, found {JsonLineReader.Shown(text)}"));
        }

        return values.Count <= most ? values : throw line.Fault($"expected at most {most}, found {values.Count}");
    }

    /// <inheritdoc/>
    public override void Write(Utf8JsonWriter json, IReadOnlyList<T> value)
    {
        json.WriteStartArray();
        foreach (var item in value) json.WriteStringValue(write(item));
        json.WriteEndArray();
    }

    /// <inheritdoc/>
    public override bool AreEqual(IReadOnlyList<T> one, IReadOnlyList<T> other) => one.SequenceEqual(other);
}
