using System.Buffers;
using System.Text.Json;

namespace AmberCrate.Core.Formats;

/// <summary>A table.</summary>
/// <param name="keys">Its keys.</param>
/// <param name="isReadLater">Whether it is read when it is requested, in a line that was checked before.</param>
internal sealed class TableFormat<T>(KeyTable<T> keys, bool isReadLater = false) : ValueFormat<T>
    where T : class
{
    /// <inheritdoc/>
    public override IKeyTable? Table => keys;

    /// <inheritdoc/>
    public override string Type => "table";

    /// <inheritdoc/>
    public override object? Read(TableReader table, string key, bool isRequired) =>
        table.Child(key, isRequired) is { } child ? keys.Read(child) : null;

    /// <inheritdoc/>
    public override object Read(ref JsonLineReader line, bool isRequired) =>
        isReadLater && line.WasChecked ? line.LaterTable(keys) : line.ReadTable(keys);

    /// <inheritdoc/>
    public override void Write(Utf8JsonWriter json, T value) => keys.Write(json, value);

    /// <inheritdoc/>
    public override bool AreEqual(T one, T other) =>
        ReferenceEquals(one, other) || Bytes(one).SequenceEqual(Bytes(other));

    private ReadOnlySpan<byte> Bytes(T value)
    {
        var bytes = new ArrayBufferWriter<byte>();
        using (var json = new Utf8JsonWriter(bytes)) keys.Write(json, value);
        return bytes.WrittenSpan;
    }
}
