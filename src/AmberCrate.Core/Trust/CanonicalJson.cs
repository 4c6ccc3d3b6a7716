using System.Buffers;
using System.Text;
using System.Text.Json;
using AmberCrate.Core.Values;

namespace AmberCrate.Core.Trust;

/// <summary>
/// The one form of a JSON value that is signed: keys in order, no spaces, whole numbers only, nothing escaped but the quotation
/// mark and the backslash. Source: "Canonical JSON" of the OLPC project, which the specification of The Update Framework
/// points.
/// </summary>
public static class CanonicalJson
{
    private const int DeepestNesting = 32;

    private static readonly JsonDocumentOptions Strict = new() { MaxDepth = DeepestNesting, AllowDuplicateProperties = false };

    /// <summary>Reads a document strictly: no key twice, not too deep, nothing behind it.</summary>
    /// <exception cref="MalformedException">It is none.</exception>
    public static JsonDocument Read(ReadOnlyMemory<byte> bytes)
    {
        // Check the text now: the JSON reader reports half a character only when the string is read, which may be much later.
        JsonUnicode.Require(bytes.Span);
        return ForeignText.Read("the JSON", () => JsonDocument.Parse(bytes, Strict));
    }

    /// <summary>The canonical form of a value.</summary>
    /// <exception cref="MalformedException">It has none: it holds a fraction, or text that is not Unicode.</exception>
    public static byte[] Write(JsonElement value)
    {
        var bytes = new ArrayBufferWriter<byte>();
        return ForeignText.Read("the JSON", () =>
        {
            Write(value, bytes);
            return bytes.WrittenSpan.ToArray();
        });
    }

    private static void Write(JsonElement value, ArrayBufferWriter<byte> bytes)
    {
        switch (value.ValueKind)
        {
            case JsonValueKind.Object:
                WriteObject(value, bytes);
                break;
            case JsonValueKind.Array:
                bytes.Write("["u8);
                var at = 0;
                foreach (var item in value.EnumerateArray())
                {
                    if (at++ > 0) bytes.Write(","u8);
                    Write(item, bytes);
                }

                bytes.Write("]"u8);
                break;
            case JsonValueKind.String:
                WriteText(value.GetString()!, bytes);
                break;
            case JsonValueKind.Number when value.TryGetInt64(out var number):
                bytes.Write(Encoding.ASCII.GetBytes(number.ToString(System.Globalization.CultureInfo.InvariantCulture)));
                break;
            case JsonValueKind.True:
                bytes.Write("true"u8);
                break;
            case JsonValueKind.False:
                bytes.Write("false"u8);
                break;
            case JsonValueKind.Null:
                bytes.Write("null"u8);
                break;
            default:
                throw new MalformedException($"it holds {value.GetRawText()}, which cannot be signed: only whole numbers can");
        }
    }

    private static void WriteObject(JsonElement value, ArrayBufferWriter<byte> bytes)
    {
        bytes.Write("{"u8);
        var at = 0;
        foreach (var property in value.EnumerateObject().OrderBy(property => property.Name, StringComparer.Ordinal))
        {
            if (at++ > 0) bytes.Write(","u8);
            WriteText(property.Name, bytes);
            bytes.Write(":"u8);
            Write(property.Value, bytes);
        }

        bytes.Write("}"u8);
    }

    private static void WriteText(string text, ArrayBufferWriter<byte> bytes) => bytes.Write(Encoding.UTF8.GetBytes(
        $"\"{text.Replace("\\", "\\\\", StringComparison.Ordinal).Replace("\"", "\\\"", StringComparison.Ordinal)}\""));
}
