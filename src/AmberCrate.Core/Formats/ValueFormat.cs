using System.Text.Json;

namespace AmberCrate.Core.Formats;

/// <summary>How the value of a key is written in TOML and in JSON.</summary>
internal abstract class ValueFormat
{
    /// <summary>The type of value, in TOML's words for the documentation: "string", "array of strings".</summary>
    public abstract string Type { get; }

    /// <summary>The words that are possible, for the documentation; empty where there is no fixed set.</summary>
    public virtual IEnumerable<string> Words => [];

    /// <summary>The keys of the table that the value is; null where it is none.</summary>
    public virtual IKeyTable? Table => null;

    /// <summary>Takes the value from a TOML table; null where it is missing or faulty. A fault is added to the table.</summary>
    public abstract object? Read(TableReader table, string key, bool isRequired);

    /// <summary>Reads the value that comes next in a line of JSON.</summary>
    /// <exception cref="Values.MalformedException">It is not one; the message says which key, and what was expected.</exception>
    public abstract object Read(ref JsonLineReader line, bool isRequired);
}

/// <summary>How values of one type are written in TOML and in JSON.</summary>
internal abstract class ValueFormat<T> : ValueFormat
{
    /// <summary>Writes a value into a line of JSON.</summary>
    public abstract void Write(Utf8JsonWriter json, T value);

    /// <summary>Whether two values are written in the same way.</summary>
    public virtual bool AreEqual(T one, T other) => EqualityComparer<T>.Default.Equals(one, other);
}
