using System.Security.Cryptography;
using System.Text;
using System.Text.Json;

namespace AmberCrate.Core.Inventories;

/// <summary>What software lists in JSON have in common.</summary>
internal static class JsonInventory
{
    private static readonly JsonWriterOptions Layout = new() { Indented = true, NewLine = "\n" };

    /// <summary>Writes a document.</summary>
    public static string Write(Action<Utf8JsonWriter> write)
    {
        using var bytes = new MemoryStream();
        using (var json = new Utf8JsonWriter(bytes, Layout)) write(json);
        bytes.WriteByte((byte)'\n');
        return Encoding.UTF8.GetString(bytes.ToArray());
    }

    /// <summary>
    /// A UUID (RFC 9562, version 8) made of what is on the machine: the same list has the same one, whenever it is written.
    /// </summary>
    public static Guid SerialOf(Inventory inventory) =>
        SerialOf(inventory.Items.Select(item => item.PackageUrl).Prepend(inventory.Machine));

    /// <summary>A UUID made of texts.</summary>
    public static Guid SerialOf(IEnumerable<string> texts)
    {
        var bytes = SHA256.HashData(Encoding.UTF8.GetBytes(string.Join('\n', texts)))[..16];
        bytes[6] = (byte)((bytes[6] & 0x0f) | 0x80);
        bytes[8] = (byte)((bytes[8] & 0x3f) | 0x80);
        return new Guid(bytes, bigEndian: true);
    }

    /// <summary>The time, to the second.</summary>
    public static string Time(DateTimeOffset time) => $"{time.UtcDateTime:yyyy-MM-dd'T'HH:mm:ss'Z'}";

    /// <summary>Writes an array of the items that a function makes.</summary>
    public static void Array<T>(Utf8JsonWriter json, string name, IEnumerable<T> items, Action<T> write)
    {
        json.WriteStartArray(name);
        foreach (var item in items) write(item);
        json.WriteEndArray();
    }

    /// <summary>Writes an object of texts.</summary>
    public static void Texts(Utf8JsonWriter json, params ReadOnlySpan<(string Name, string Value)> texts)
    {
        json.WriteStartObject();
        foreach (var (name, value) in texts) json.WriteString(name, value);
        json.WriteEndObject();
    }
}
