using System.Text.Json;
using AmberCrate.Core.Values;

namespace AmberCrate.Core.Formats;

/// <summary>An array of words of a fixed set.</summary>
/// <param name="words">The words.</param>
internal sealed class ChoiceListFormat<T>(WordTable<T> words) : ValueFormat<IReadOnlyList<T>>
    where T : struct, Enum
{
    private const int Longest = 100;

    private readonly ChoiceFormat<T> _item = new(words);

    /// <inheritdoc/>
    public override string Type => "array of strings";

    /// <inheritdoc/>
    public override IEnumerable<string> Words => _item.Words;

    /// <inheritdoc/>
    public override object? Read(TableReader table, string key, bool isRequired)
    {
        if (!table.Has(key)) return null;
        var chosen = new List<T>();
        foreach (var text in table.Texts(key, Longest))
        {
            if (words.TryRead(text, out var value)) chosen.Add(value);
            else table.AddFault(key, $"expected {string.Join(", ", Words.Select(word => $"\"{word}\""))}, found \"{text}\"");
        }

        return chosen;
    }

    /// <inheritdoc/>
    public override object Read(ref JsonLineReader line, bool isRequired)
    {
        line.BeginArray("strings");
        var chosen = new List<T>();
        while (line.NextItem()) chosen.Add((T)_item.ReadHere(line));
        return chosen;
    }

    /// <inheritdoc/>
    public override void Write(Utf8JsonWriter json, IReadOnlyList<T> value)
    {
        json.WriteStartArray();
        foreach (var item in value) _item.Write(json, item);
        json.WriteEndArray();
    }

    /// <inheritdoc/>
    public override bool AreEqual(IReadOnlyList<T> one, IReadOnlyList<T> other) => one.SequenceEqual(other);
}
