using System.Buffers;
using System.Text;
using System.Text.Json;

namespace AmberCrate.Engine.Storage;

/// <summary>Lists as JSON, for statements and columns.</summary>
internal static class JsonText
{
    /// <summary>An array of strings.</summary>
    public static string Array(IEnumerable<string> texts)
    {
        var bytes = new ArrayBufferWriter<byte>();
        using (var json = new Utf8JsonWriter(bytes))
        {
            json.WriteStartArray();
            foreach (var text in texts) json.WriteStringValue(text);
            json.WriteEndArray();
        }

        return Encoding.UTF8.GetString(bytes.WrittenSpan);
    }

    /// <summary>The strings of an array that was written above.</summary>
    public static IReadOnlyList<string> Texts(string array)
    {
        using var json = JsonDocument.Parse(array);
        return [.. json.RootElement.EnumerateArray().Select(item => item.GetString() ?? "")];
    }
}
