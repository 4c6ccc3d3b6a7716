using System.Text.Json;

namespace AmberCrate.Core.Formats;

/// <summary>An array of tables.</summary>
/// <param name="keys">The keys of each.</param>
/// <param name="isReadLater">Whether each is read when it is requested, in a line that was checked before.</param>
internal sealed class TableListFormat<T>(KeyTable<T> keys, bool isReadLater = false) : ValueFormat<IReadOnlyList<T>>
    where T : class
{
    /// <inheritdoc/>
    public override IKeyTable? Table => keys;

    /// <inheritdoc/>
    public override string Type => "tables";

    /// <summary>
    /// Takes the tables; an empty list where a required key has none. How many there must be is a rule of the record.
    /// </summary>
    public override object? Read(TableReader table, string key, bool isRequired) =>
        !isRequired && !table.Has(key) ? null : table.Children(key).Select(keys.Read).OfType<T>().ToList();

    /// <inheritdoc/>
    public override object Read(ref JsonLineReader line, bool isRequired) =>
        isReadLater && line.WasChecked ? line.LaterTables(keys) : line.ReadTables(keys);

    /// <inheritdoc/>
    public override void Write(Utf8JsonWriter json, IReadOnlyList<T> value)
    {
        json.WriteStartArray();
        foreach (var item in value) keys.Write(json, item);
        json.WriteEndArray();
    }

    /// <inheritdoc/>
    public override bool AreEqual(IReadOnlyList<T> one, IReadOnlyList<T> other) => one.SequenceEqual(other);
}
