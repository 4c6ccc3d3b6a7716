using System.Buffers;
using System.Text.Json;
using System.Text.Json.Serialization;
using System.Text.Json.Serialization.Metadata;

namespace AmberCrate.Cli.Terminal;

/// <summary>Writes JSON documents.</summary>
/// <param name="types">The generated code for all documents. They are only written, so no code to read them is generated.</param>
internal sealed class DocumentWriter(JsonSerializerContext types)
{
    private static readonly SafeJsonEncoder Safe = new();
    private static readonly JsonWriterOptions OverLines = new() { Indented = true, NewLine = "\n", Encoder = Safe };
    private static readonly JsonWriterOptions OnOneLine = new() { Encoder = Safe };

    /// <summary>Writes a document over several lines.</summary>
    public void WriteDocument<T>(IBufferWriter<byte> bytes, T document) => Write(bytes, document, OverLines);

    /// <summary>Writes a document on one line, for a stream of events.</summary>
    public void WriteEvent<T>(IBufferWriter<byte> bytes, T document) => Write(bytes, document, OnOneLine);

    private void Write<T>(IBufferWriter<byte> bytes, T document, JsonWriterOptions options)
    {
        using var writer = new Utf8JsonWriter(bytes, options);
        ((JsonTypeInfo<T>)types.GetTypeInfo(typeof(T))!).SerializeHandler!(writer, document);
    }
}
