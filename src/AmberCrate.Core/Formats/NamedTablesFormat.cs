using System.Text.Json;
using AmberCrate.Core.Toml;

namespace AmberCrate.Core.Formats;

/// <summary>
/// Tables that people write each under a name, such as <c>[translations.de]</c>, and that a line of JSON has as an array, where
/// the name is a key of its own.
/// </summary>
/// <param name="keys">The keys of each.</param>
/// <param name="nameKey">The key that has the name.</param>
/// <param name="most">The most tables.</param>
internal sealed class NamedTablesFormat<T>(KeyTable<T> keys, string nameKey, int most) : ValueFormat<IReadOnlyList<T>>
    where T : class
{
    private readonly TableListFormat<T> _list = new(keys, isReadLater: true);

    /// <inheritdoc/>
    public override IKeyTable? Table => keys;

    /// <inheritdoc/>
    public override string Type => "tables by name";

    /// <inheritdoc/>
    public override object? Read(TableReader table, string key, bool isRequired)
    {
        if (table.Child(key, isRequired) is not { } all) return null;
        if (all.Table.Entries.Count > most) table.AddFault(key, $"expected at most {most}, found {all.Table.Entries.Count}");
        var found = new List<T>();
        foreach (var (name, value) in all.Table.Entries.Take(most))
        {
            if (value is not TomlTable inner)
            {
                all.AddFault(name, $"expected a table, found {value.Kind}");
                continue;
            }

            if (inner.Entries.ContainsKey(nameKey))
            {
                all.AddFault(name, $"expected no key \"{nameKey}\", which is the table's name");
                continue;
            }

            inner.Entries.Insert(0, nameKey, new TomlString(name, inner.Line, 0, 0));
            if (all.Child(name) is { } child && keys.Read(child) is { } item) found.Add(item);
        }

        return found;
    }

    /// <inheritdoc/>
    public override object Read(ref JsonLineReader line, bool isRequired) => _list.Read(ref line, isRequired);

    /// <inheritdoc/>
    public override void Write(Utf8JsonWriter json, IReadOnlyList<T> value) => _list.Write(json, value);

    /// <inheritdoc/>
    public override bool AreEqual(IReadOnlyList<T> one, IReadOnlyList<T> other) => _list.AreEqual(one, other);
}
