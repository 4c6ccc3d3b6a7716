using System.Text.Json;
using System.Text.Json.Serialization;

namespace AmberCrate.Cli.Documents;

/// <summary>Writes a text that is JSON already as it is.</summary>
internal sealed class RawJson : JsonConverter<string>
{
    public override string Read(ref Utf8JsonReader reader, Type typeToConvert, JsonSerializerOptions options) =>
        throw new NotSupportedException("documents are only written");

    public override void Write(Utf8JsonWriter writer, string value, JsonSerializerOptions options) => writer.WriteRawValue(value);
}
