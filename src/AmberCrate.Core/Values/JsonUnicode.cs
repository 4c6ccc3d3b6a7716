using System.Globalization;
using System.Text.Unicode;

namespace AmberCrate.Core.Values;

/// <summary>
/// Whether a JSON text holds Unicode and nothing else. A reader of tokens does not look; it fails later, when a text is asked
/// for.
/// </summary>
public static class JsonUnicode
{
    private const int EscapeLength = 6;

    /// <summary>Throws if the text has another form.</summary>
    /// <exception cref="MalformedException">It has bytes that are not UTF-8, or an escape of half a character (RFC 8259,
    /// 7).</exception>
    public static void Require(ReadOnlySpan<byte> json)
    {
        if (!Utf8.IsValid(json)) throw new MalformedException("expected text in UTF-8");
        for (var rest = json; rest.IndexOf((byte)'\\') is >= 0 and var at;)
        {
            rest = rest[at..];
            if (UnitOf(rest) is not { } unit) rest = rest[Math.Min(2, rest.Length)..];
            else if (!char.IsSurrogate(unit)) rest = rest[EscapeLength..];
            else if (char.IsHighSurrogate(unit) && UnitOf(rest[EscapeLength..]) is { } low && char.IsLowSurrogate(low))
                rest = rest[(2 * EscapeLength)..];
            else throw new MalformedException("expected whole characters, found the escape of half of one");
        }
    }

    /// <summary>The code unit that an escape at the beginning means; null where there is none of this kind.</summary>
    private static char? UnitOf(ReadOnlySpan<byte> json) =>
        json.Length >= EscapeLength && json.StartsWith("\\u"u8)
            && ushort.TryParse(json[2..EscapeLength], NumberStyles.AllowHexSpecifier, CultureInfo.InvariantCulture, out var unit)
            ? (char)unit
            : null;
}
