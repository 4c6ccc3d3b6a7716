using System.Text.Json;

namespace AmberCrate.Core.Formats;

/// <summary>
/// The keys of one kind of table, in the order they are written. It is the only description of that table: the TOML
/// reader, the JSON reader, the JSON writer and the documentation all go by it.
/// </summary>
/// <param name="make">Makes the record from the values of the keys; the required ones are there.</param>
/// <param name="hints">The right keys for those that people often write instead; null for none.</param>
internal sealed class KeyTable<T>(Func<KeyValues, T> make, IReadOnlyDictionary<string, string>? hints = null) : IKeyTable
    where T : class
{
    private readonly List<Key<T>> _keys = [];

    /// <inheritdoc/>
    public IReadOnlyList<IKey> Keys => _keys;

    /// <summary>Adds a key that must be there.</summary>
    /// <param name="name">Its name.</param>
    /// <param name="format">How its value is written.</param>
    /// <param name="get">Takes its value from a record.</param>
    /// <param name="meaning">What it means, for the documentation.</param>
    public Key<T, TValue> Required<TValue>(string name, ValueFormat<TValue> format, Func<T, TValue> get, string meaning) =>
        Add(new Key<T, TValue>(Facts(name, meaning, isRequired: true, format), default!, (json, owner) =>
        {
            json.WritePropertyName(name);
            format.Write(json, get(owner));
        }));

    /// <summary>Adds a key that may be missing: then its value is <paramref name="otherwise"/>, which is not written.</summary>
    public Key<T, TValue> Optional<TValue>(
        string name, ValueFormat<TValue> format, TValue otherwise, Func<T, TValue> get, string meaning) =>
        Add(new Key<T, TValue>(Facts(name, meaning, isRequired: false, format), otherwise, (json, owner) =>
        {
            var value = get(owner);
            if (format.AreEqual(value, otherwise)) return;
            json.WritePropertyName(name);
            format.Write(json, value);
        }));

    /// <summary>Adds a key that may be missing; then its value is null.</summary>
    public Key<T, TValue?> Optional<TValue>(string name, ValueFormat<TValue> format, Func<T, TValue?> get, string meaning)
        where TValue : class =>
        Add(new Key<T, TValue?>(Facts(name, meaning, isRequired: false, format), null, (json, owner) =>
        {
            if (get(owner) is not { } value) return;
            json.WritePropertyName(name);
            format.Write(json, value);
        }));

    /// <summary>Adds a key that may be missing; then its value is null.</summary>
    public Key<T, TValue?> Optional<TValue>(string name, ValueFormat<TValue> format, Func<T, TValue?> get, string meaning)
        where TValue : struct =>
        Add(new Key<T, TValue?>(Facts(name, meaning, isRequired: false, format), null, (json, owner) =>
        {
            if (get(owner) is not { } value) return;
            json.WritePropertyName(name);
            format.Write(json, value);
        }));

    private KeyFacts Facts(string name, string meaning, bool isRequired, ValueFormat format) =>
        new(name, meaning, isRequired, _keys.Count, format);

    /// <summary>Reads a record from a TOML table; null where faults were added.</summary>
    public T? Read(TableReader table)
    {
        var values = new KeyValues(_keys.Count);
        foreach (var key in _keys) values[key.Place] = key.Format.Read(table, key.Name, key.IsRequired);
        table.RefuseUnknownKeys(hints);
        return MissingIn(values) is null ? make(values) : null;
    }

    /// <summary>Reads a record from a JSON object that has just begun.</summary>
    /// <exception cref="Values.MalformedException">It is not one; the message says which key, and what was expected.</exception>
    public T Read(ref JsonLineReader line)
    {
        var values = new KeyValues(_keys.Count);
        var next = 0;
        while (line.NextKey())
        {
            var key = Find(line, next) ?? throw line.Unknown();
            line.Key = key.Name;
            if (values[key.Place] is not null) throw line.Fault("expected once");
            values[key.Place] = key.Format.Read(ref line, key.IsRequired);
            next = key.Place + 1;
        }

        return MissingIn(values) is { } missing ? throw JsonLineReader.Missing(missing) : make(values);
    }

    /// <summary>Writes a record as a JSON object; keys whose value is the usual one are left out.</summary>
    public void Write(Utf8JsonWriter json, T record)
    {
        json.WriteStartObject();
        foreach (var key in _keys) key.Write(json, record);
        json.WriteEndObject();
    }

    /// <summary>The key whose name comes next. The one after the last key is looked at first, since keys come in order.</summary>
    private Key<T>? Find(in JsonLineReader line, int next)
    {
        for (var step = 0; step < _keys.Count; step++, next++)
        {
            if (next >= _keys.Count) next = 0;
            if (line.IsKey(_keys[next].Utf8Name)) return _keys[next];
        }

        return null;
    }

    private string? MissingIn(KeyValues values)
    {
        foreach (var key in _keys)
        {
            if (key.IsRequired && values[key.Place] is null) return key.Name;
        }

        return null;
    }

    private TKey Add<TKey>(TKey key)
        where TKey : Key<T>
    {
        _keys.Add(key);
        return key;
    }
}
