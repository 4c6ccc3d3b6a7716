using System.Text;
using System.Text.Json;
using AmberCrate.Core.Values;

namespace AmberCrate.Core.Formats;

/// <summary>A key of a table.</summary>
/// <param name="facts">Its name, its place and so on.</param>
/// <param name="write">Writes name and value, or nothing where the value is the usual one.</param>
internal abstract class Key<TOwner>(KeyFacts facts, Action<Utf8JsonWriter, TOwner> write) : IKey
{
    /// <inheritdoc/>
    public string Name => facts.Name;

    /// <inheritdoc/>
    public string Meaning => facts.Meaning;

    /// <inheritdoc/>
    public bool IsRequired => facts.IsRequired;

    /// <inheritdoc/>
    public ValueFormat Format => facts.Format;

    /// <summary>Its place among the keys of the table, from 0.</summary>
    public int Place => facts.Place;

    /// <summary>Its name as it stands in JSON.</summary>
    public byte[] Utf8Name { get; } = Encoding.UTF8.GetBytes(facts.Name);

    /// <summary>Writes name and value of a record, or nothing where the value is the usual one.</summary>
    public void Write(Utf8JsonWriter json, TOwner owner) => write(json, owner);
}

/// <summary>A key of a table, with the type of its value.</summary>
/// <param name="facts">Its name, its place and so on.</param>
/// <param name="otherwise">Its value where it is missing.</param>
/// <param name="write">Writes name and value, or nothing where the value is the usual one.</param>
internal sealed class Key<TOwner, TValue>(KeyFacts facts, TValue otherwise, Action<Utf8JsonWriter, TOwner> write)
    : Key<TOwner>(facts, write)
{
    /// <summary>Its value among those that were read.</summary>
    public TValue In(KeyValues values) => values[Place] is TValue value ? value : otherwise;

    /// <summary>Its value where that is a table that is read when it is requested; null where it was read at once.</summary>
    public LazyList<TTable>? LaterIn<TTable>(KeyValues values)
        where TTable : class => values[Place] as LazyList<TTable>;
}
