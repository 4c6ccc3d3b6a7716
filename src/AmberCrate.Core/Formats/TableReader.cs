using AmberCrate.Core.Problems;
using AmberCrate.Core.Toml;
using AmberCrate.Core.Values;

namespace AmberCrate.Core.Formats;

/// <summary>
/// Takes the values of one table, and adds a fault for every one that is missing, of the wrong kind or unknown.
/// Reading goes on after a fault, so that one pass finds them all.
/// </summary>
public sealed class TableReader(TomlTable table, string file, string path, ICollection<FormatFault> faults)
{
    /// <summary>Reads a word of the trade from text; false when it is not one.</summary>
    public delegate bool TextParser<T>(string text, out T? value);

    private readonly HashSet<string> _known = new(StringComparer.Ordinal);

    /// <summary>The table behind this reader.</summary>
    public TomlTable Table => table;

    /// <summary>Whether the table has this key, which is known from now on.</summary>
    public bool Has(string key)
    {
        _known.Add(key);
        return table.Entries.ContainsKey(key);
    }

    /// <summary>A string, or null with a fault where it is required and missing.</summary>
    public string? Text(string key, bool required = false, int maxLength = 1000)
    {
        if (ReadValue<TomlString>(key, required, "a string") is not { } text) return null;
        if (text.Value.Length == 0 && required)
            return Fault<string>(text.Line, key, "expected a string that is not empty, found \"\"");
        return text.Value.Length <= maxLength ? text.Value
            : Fault<string>(text.Line, key, $"expected at most {maxLength} characters, found {text.Value.Length}");
    }

    /// <summary>A string that a parser must accept; <paramref name="expected"/> says what it accepts.</summary>
    public T? Parsed<T>(string key, TextParser<T> parse, string expected, bool required = false)
        where T : class
    {
        if (ReadValue<TomlString>(key, required, "a string") is not { } text) return null;
        return parse(text.Value, out var value) ? value : Fault<T>(text.Line, key, $"expected {expected}, found {text.Kind}");
    }

    /// <summary>One of a fixed set of words; the first of the table where the key is missing or at fault.</summary>
    public T Choice<T>(string key, WordTable<T> words, bool required = false)
        where T : struct, Enum
    {
        if (ReadValue<TomlString>(key, required, "a string") is not { } text) return words.Pairs[0].Value;
        if (words.TryRead(text.Value, out var value)) return value;
        Fault<object>(text.Line, key, $"expected one of {Quoted(words)}, found {text.Kind}");
        return words.Pairs[0].Value;
    }

    private static string Quoted<T>(WordTable<T> words)
        where T : struct, Enum => string.Join(", ", words.Pairs.Select(pair => $"\"{pair.Word}\""));

    /// <summary>A whole number within bounds.</summary>
    public long? Number(string key, long least, long most, bool required = false)
    {
        if (ReadValue<TomlInteger>(key, required, "a whole number") is not { } number) return null;
        if (number.Value >= least && number.Value <= most) return number.Value;
        Fault<object>(number.Line, key, $"expected a whole number from {least} to {most}, found {number.Value}");
        return null;
    }

    /// <summary>True or false; <paramref name="otherwise"/> where the key is missing.</summary>
    public bool Truth(string key, bool otherwise = false) =>
        ReadValue<TomlBoolean>(key, required: false, "true or false")?.Value ?? otherwise;

    /// <summary>A date without a time.</summary>
    public DateOnly? Date(string key, bool required = false) =>
        ReadValue<TomlDate>(key, required, "a date such as 2026-09-01, without quotes")?.Value;

    /// <summary>An array of strings; empty where the key is missing.</summary>
    public IReadOnlyList<string> Texts(string key, int maxLength = 100)
    {
        if (ReadValue<TomlArray>(key, required: false, "an array of strings") is not { } array) return [];
        var texts = new List<string>();
        foreach (var item in array.Items)
        {
            if (item is TomlString { Value.Length: > 0 } text && text.Value.Length <= maxLength) texts.Add(text.Value);
            else Fault<object>(item.Line, key, $"expected strings of 1 to {maxLength} characters, found {item.Kind}");
        }

        return texts;
    }

    /// <summary>An array of whole numbers; empty where the key is missing.</summary>
    public IReadOnlyList<int> Numbers(string key, int least, int most)
    {
        if (ReadValue<TomlArray>(key, required: false, "an array of whole numbers") is not { } array) return [];
        var numbers = new List<int>();
        foreach (var item in array.Items)
        {
            if (item is TomlInteger number && number.Value >= least && number.Value <= most) numbers.Add((int)number.Value);
            else Fault<object>(item.Line, key, $"expected whole numbers from {least} to {most}");
        }

        return numbers;
    }

    /// <summary>A table, or null where it is missing.</summary>
    public TableReader? Child(string key, bool required = false) =>
        ReadValue<TomlTable>(key, required, "a table") is { } child ? new TableReader(child, file, PathTo(key), faults) : null;

    /// <summary>An array of tables; empty where the key is missing.</summary>
    public IEnumerable<TableReader> Children(string key)
    {
        if (ReadValue<TomlArray>(key, required: false, $"tables written as [[{PathTo(key)}]]") is not { } array) yield break;
        for (var index = 0; index < array.Items.Count; index++)
        {
            if (array.Items[index] is TomlTable child)
                yield return new TableReader(child, file, $"{PathTo(key)}[{index + 1}]", faults);
            else Fault<object>(array.Items[index].Line, key, $"expected a table, found {array.Items[index].Kind}");
        }
    }

    /// <summary>Adds a fault for every key that nothing has asked for.</summary>
    /// <param name="hints">The right keys for those that people often write instead; null for none.</param>
    public void RefuseUnknownKeys(IReadOnlyDictionary<string, string>? hints = null)
    {
        foreach (var (key, value) in table.Entries.Where(entry => !_known.Contains(entry.Key)))
        {
            if (faults.Count >= FormatFault.Most) return;
            var meant = hints?.GetValueOrDefault(key) ?? WordDistance.Nearest(key, _known);
            Fault<object>(value.Line, key, meant is null
                ? $"unknown key; known here: {string.Join(", ", _known.Order(StringComparer.Ordinal))}"
                : $"unknown key; did you mean {meant}?");
        }
    }

    /// <summary>Adds a fault at a key of this table.</summary>
    public void AddFault(string key, string message) =>
        Fault<object>(table.Entries.TryGetValue(key, out var value) ? value.Line : table.Line, key, message);

    private T? ReadValue<T>(string key, bool required, string expected)
        where T : TomlValue
    {
        _known.Add(key);
        if (!table.Entries.TryGetValue(key, out var value))
            return required ? Fault<T>(table.Line, key, $"expected {expected}, but the key is missing") : null;
        return value as T ?? Fault<T>(value.Line, key, $"expected {expected}, found {value.Kind}");
    }

    private T? Fault<T>(int line, string key, string message)
        where T : class
    {
        // Whoever has a hundred faults to mend begins with these; a stranger's text may have millions.
        if (faults.Count < FormatFault.Most) faults.Add(new FormatFault(file, line, PathTo(key), message));
        return null;
    }

    private string PathTo(string key) => path.Length == 0 ? key : $"{path}.{key}";
}
