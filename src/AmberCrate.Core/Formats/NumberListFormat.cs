using System.Text.Json;

namespace AmberCrate.Core.Formats;

/// <summary>An array of whole numbers within bounds.</summary>
/// <param name="least">The least.</param>
/// <param name="most">The most.</param>
internal sealed class NumberListFormat(int least, int most) : ValueFormat<IReadOnlyList<int>>
{
    /// <inheritdoc/>
    public override string Type => "array of integers";

    /// <inheritdoc/>
    public override object? Read(TableReader table, string key, bool isRequired) =>
        table.Has(key) ? table.Numbers(key, least, most) : null;

    /// <inheritdoc/>
    public override object Read(ref JsonLineReader line, bool isRequired)
    {
        line.BeginArray("whole numbers");
        var numbers = new List<int>();
        while (line.NextItem())
            numbers.Add((int)(line.Number(least, most) ?? throw line.Fault($"expected whole numbers from {least} to {most}")));
        return numbers;
    }

    /// <inheritdoc/>
    public override void Write(Utf8JsonWriter json, IReadOnlyList<int> value)
    {
        json.WriteStartArray();
        foreach (var number in value) json.WriteNumberValue(number);
        json.WriteEndArray();
    }

    /// <inheritdoc/>
    public override bool AreEqual(IReadOnlyList<int> one, IReadOnlyList<int> other) => one.SequenceEqual(other);
}
