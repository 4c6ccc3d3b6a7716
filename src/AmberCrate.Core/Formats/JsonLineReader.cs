using System.Text.Json;
using AmberCrate.Core.Values;

namespace AmberCrate.Core.Formats;

/// <summary>
/// Reads a record from a line of JSON by its table of keys. Stops at the first fault: a catalogue is taken over as a whole or not
/// at all.
/// </summary>
internal ref partial struct JsonLineReader
{
    private readonly ReadOnlySpan<byte> _line;

    // Where tables are left to be read when they are requested: the line, and what a fault in it is then.
    private readonly ReadOnlyMemory<byte> _kept;
    private readonly Func<MalformedException, Exception>? _damaged;
    private Utf8JsonReader _json;

    // Where in the line the JSON reader began: behind what was passed over.
    private int _begin;

    /// <summary>Begins to read a line as a whole.</summary>
    public JsonLineReader(ReadOnlySpan<byte> line)
    {
        _line = line;
        _json = new Utf8JsonReader(line);
    }

    /// <summary>Begins to read a line that was checked before; its lists of tables are read when they are requested.</summary>
    /// <param name="line">The line; it must not change after this.</param>
    /// <param name="damaged">What is thrown where it turns out faulty by then.</param>
    public JsonLineReader(ReadOnlyMemory<byte> line, Func<MalformedException, Exception> damaged)
        : this(line.Span) => (_kept, _damaged) = (line, damaged);

    /// <summary>Whether the line was checked before, so that tables in it can be read later.</summary>
    public readonly bool WasChecked => _damaged is not null;

    /// <summary>The key whose value is read, for messages.</summary>
    public string Key { get; set; } = "";

    /// <summary>Reads the record that the line is.</summary>
    /// <exception cref="MalformedException">It is not one; the message says where and what was expected.</exception>
    public T ReadAll<T>(KeyTable<T> keys)
        where T : class
    {
        if (!WasChecked) JsonUnicode.Require(_line);
        try
        {
            _json.Read();
            if (_json.TokenType != JsonTokenType.StartObject) throw new MalformedException("expected an object");
            var record = keys.Read(ref this);
            return !_json.Read() ? record : throw new MalformedException("expected nothing behind the object");
        }
        catch (Exception fault) when (ForeignText.IsOfText(fault))
        {
            throw new MalformedException(ForeignText.Words(fault), fault);
        }
    }

    /// <summary>Goes to the next key of the object; false at its end.</summary>
    public bool NextKey() => _json.Read() && _json.TokenType == JsonTokenType.PropertyName;

    /// <summary>Whether this is the key that comes next.</summary>
    public readonly bool IsKey(ReadOnlySpan<byte> key) => _json.ValueTextEquals(key);

    /// <summary>Reads the table behind the key.</summary>
    public T ReadTable<T>(KeyTable<T> keys)
        where T : class
    {
        var name = Key;
        _json.Read();
        return ReadTable(keys, name);
    }

    /// <summary>Reads the array of tables behind the key.</summary>
    public List<T> ReadTables<T>(KeyTable<T> keys)
        where T : class
    {
        var name = Key;
        Begin(JsonTokenType.StartArray, "an array");
        var records = new List<T>();
        while (_json.Read() && _json.TokenType != JsonTokenType.EndArray)
            records.Add(ReadTable(keys, name, records.Count + 1));
        return records;
    }

    /// <summary>The table behind the key, in a list of one that reads it when it is requested.</summary>
    public LazyList<T> LaterTable<T>(KeyTable<T> keys)
        where T : class => Later(keys, [Part()]);

    /// <summary>The array of tables behind the key, each read when it is requested.</summary>
    public LazyList<T> LaterTables<T>(KeyTable<T> keys)
        where T : class => Later(keys, Parts());

    /// <summary>That the object has a key that its table does not know.</summary>
    public readonly MalformedException Unknown() => new($"{_json.GetString()}: unknown key");

    /// <summary>That the object lacks a key.</summary>
    public static MalformedException Missing(string key) => new($"{key}: the key is missing");

    /// <summary>A fault in the value of the key.</summary>
    public readonly MalformedException Fault(string what) => new($"{Key}: {what}");

    /// <summary>Reads a table; a fault in it is reported with its path.</summary>
    /// <param name="keys">Its keys.</param>
    /// <param name="name">Its key.</param>
    /// <param name="number">Its number in an array, from 1; 0 where it stands alone.</param>
    private T ReadTable<T>(KeyTable<T> keys, string name, int number = 0)
        where T : class
    {
        if (_json.TokenType != JsonTokenType.StartObject)
            throw new MalformedException($"{PathTo(name, number)}: expected an object");
        try
        {
            return keys.Read(ref this);
        }
        catch (MalformedException fault)
        {
            throw new MalformedException($"{PathTo(name, number)}.{fault.Message}", fault);
        }
    }

    private static string PathTo(string name, int number) => number == 0 ? name : $"{name}[{number}]";

    private readonly LazyList<T> Later<T>(KeyTable<T> keys, (int At, int Length)[] parts)
        where T : class
    {
        var (line, damaged) = (_kept, _damaged!);
        return new LazyList<T>(parts.Length, at =>
        {
            try
            {
                var reader = new JsonLineReader(line.Slice(parts[at].At, parts[at].Length), damaged);
                return reader.ReadAll(keys);
            }
            catch (MalformedException fault)
            {
                throw damaged(fault);
            }
        });
    }

    private void Begin(JsonTokenType token, string expected)
    {
        _json.Read();
        if (_json.TokenType != token) throw Fault($"expected {expected}");
    }
}
