using System.Text;
using System.Text.Json;
using AmberCrate.Core.Values;

namespace AmberCrate.Core.Formats;

/// <summary>A key of a table.</summary>
/// <param name="name">Its name.</param>
/// <param name="meaning">What it means.</param>
/// <param name="isRequired">Whether it must be there.</param>
/// <param name="place">Its place among the keys of the table, from 0.</param>
/// <param name="format">How its value is written.</param>
/// <param name="write">Writes name and value, or nothing where the value is the usual one.</param>
internal abstract class Key<TOwner>(
    string name, string meaning, bool isRequired, int place, ValueFormat format, Action<Utf8JsonWriter, TOwner> write) : IKey
{
    /// <inheritdoc/>
    public string Name => name;

    /// <inheritdoc/>
    public string Meaning => meaning;

    /// <inheritdoc/>
    public bool IsRequired => isRequired;

    /// <inheritdoc/>
    public ValueFormat Format => format;

    /// <summary>Its place among the keys of the table, from 0.</summary>
    public int Place => place;

    /// <summary>Its name as it stands in JSON.</summary>
    public byte[] Utf8Name { get; } = Encoding.UTF8.GetBytes(name);

    /// <summary>Writes name and value of a record, or nothing where the value is the usual one.</summary>
    public void Write(Utf8JsonWriter json, TOwner owner) => write(json, owner);
}

/// <summary>A key of a table, with the type of its value.</summary>
/// <param name="name">Its name.</param>
/// <param name="meaning">What it means.</param>
/// <param name="isRequired">Whether it must be there.</param>
/// <param name="place">Its place among the keys of the table, from 0.</param>
/// <param name="format">How its value is written.</param>
/// <param name="otherwise">Its value where it is missing.</param>
/// <param name="write">Writes name and value, or nothing where the value is the usual one.</param>
internal sealed class Key<TOwner, TValue>(
    string name, string meaning, bool isRequired, int place, ValueFormat format, TValue otherwise,
    Action<Utf8JsonWriter, TOwner> write) : Key<TOwner>(name, meaning, isRequired, place, format, write)
{
    /// <summary>Its value among those that were read.</summary>
    public TValue In(KeyValues values) => values[Place] is TValue value ? value : otherwise;

    /// <summary>Its value where that is a table that is read when it is requested; null where it was read at once.</summary>
    public LazyList<TTable>? LaterIn<TTable>(KeyValues values)
        where TTable : class => values[Place] as LazyList<TTable>;
}
