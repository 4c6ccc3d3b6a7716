using System.Globalization;
using System.Text;
using AmberCrate.Engine.Decoding;

namespace AmberCrate.Engine.Archives;

/// <summary>What a pax header says about an entry, as far as it is of interest here.</summary>
internal sealed class PaxRecords
{
    /// <summary>The key for the name of a sparse file; what stands in its header is made up.</summary>
    public const string SparseName = "GNU.sparse.name";

    private readonly Dictionary<string, string> _texts = new(StringComparer.Ordinal);
    private readonly List<SparsePart> _parts = [];
    private long? _offset;

    /// <summary>When the entry was last changed; null where it is not said.</summary>
    public DateTimeOffset? Time => Get("mtime") is { } text
        && decimal.TryParse(text, NumberStyles.Float, CultureInfo.InvariantCulture, out var seconds)
        && Math.Abs(seconds) < long.MaxValue / 2 ? TimeOf((long)Math.Floor(seconds)) : null;

    /// <summary>Where the parts of a sparse file go, in the two early formats; null for none.</summary>
    public IReadOnlyList<SparsePart>? SparseParts
    {
        get
        {
            if (_parts.Count > 0 || Get("GNU.sparse.numblocks") == "0") return _parts;
            if (Get("GNU.sparse.map") is not { } map) return null;
            var numbers = map.Split(',').Select(text => long.TryParse(
                text,
                NumberStyles.None,
                CultureInfo.InvariantCulture,
                out var number) ? number : throw new InvalidDataException("the map of a sparse file is damaged")).ToList();
            return numbers.Count % 2 == 0
                ? [.. numbers.Chunk(2).Select(pair => new SparsePart(pair[0], pair[1]))]
                : throw new InvalidDataException("the map of a sparse file is damaged");
        }
    }

    /// <summary>A time from seconds since 1970; null outside of what can be written down.</summary>
    public static DateTimeOffset? TimeOf(long seconds) =>
        seconds is > -62_135_596_800 and < 253_402_300_799 ? DateTimeOffset.FromUnixTimeSeconds(seconds) : null;

    /// <summary>
    /// Takes the records of a header: each its own length, a blank, a key, an equals sign, a value and a line break.
    /// </summary>
    /// <exception cref="InvalidDataException">They are not such records.</exception>
    public void Add(ReadOnlySpan<byte> records)
    {
        while (records.Length > 0 && records[0] != 0)
        {
            var blank = records.IndexOf((byte)' ');
            if (blank < 1
                || !int.TryParse(records[..blank], NumberStyles.None, CultureInfo.InvariantCulture, out var length)
                || length <= blank + 2
                || length > records.Length
                || records[length - 1] != (byte)'\n')
                throw new InvalidDataException("a pax header of the archive is damaged");
            var record = records[(blank + 1)..(length - 1)];
            var equals = record.IndexOf((byte)'=');
            if (equals < 1) throw new InvalidDataException("a pax header of the archive is damaged");
            Add(Encoding.UTF8.GetString(record[..equals]), TarHeader.Text(record[(equals + 1)..]));
            records = records[length..];
        }
    }

    /// <summary>The value of a key; null where it is not said.</summary>
    public string? Get(string key) => _texts.GetValueOrDefault(key) is { Length: > 0 } text ? text : null;

    /// <summary>The value of a key that is a number.</summary>
    /// <exception cref="InvalidDataException">It is none.</exception>
    public long? Number(string key) => Get(key) is not { } text ? null
        : long.TryParse(text, NumberStyles.None, CultureInfo.InvariantCulture, out var number) ? number
        : throw new InvalidDataException($"a pax header of the archive says {key} {text}");

    private void Add(string key, string value)
    {
        _texts[key] = value;
        if (key == "GNU.sparse.offset") _offset = Number(key);
        if (key == "GNU.sparse.numbytes" && _offset is { } offset) _parts.Add(new SparsePart(offset, Number(key) ?? 0));
    }
}
