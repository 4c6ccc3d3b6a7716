using System.Text;
using System.Text.Json;
using AmberCrate.Core.Values;

namespace AmberCrate.Core.Formats;

/// <summary>One of a fixed set of words.</summary>
/// <param name="words">The words.</param>
internal sealed class ChoiceFormat<T>(WordTable<T> words) : ValueFormat<T>
    where T : struct, Enum
{
    private readonly (byte[] Word, object Value)[] _words =
        [.. words.Pairs.Select(pair => (Encoding.UTF8.GetBytes(pair.Word), (object)pair.Value))];

    /// <inheritdoc/>
    public override string Type => "string";

    /// <inheritdoc/>
    public override IEnumerable<string> Words => words.Pairs.Select(pair => pair.Word);

    /// <inheritdoc/>
    public override object? Read(TableReader table, string key, bool isRequired) =>
        table.Choice(key, words, isRequired) is var value && table.Has(key) ? value : null;

    /// <inheritdoc/>
    public override object Read(ref JsonLineReader line, bool isRequired)
    {
        line.NextValue();
        return ReadHere(line);
    }

    /// <summary>Reads the value on which the line is.</summary>
    public object ReadHere(in JsonLineReader line)
    {
        foreach (var (word, value) in _words)
        {
            if (line.IsText(word)) return value;
        }

        throw line.Fault($"expected {words.Expected}");
    }

    /// <inheritdoc/>
    public override void Write(Utf8JsonWriter json, T value) => json.WriteStringValue(words.WordOf(value));
}
