using System.Text.Encodings.Web;
using System.Text.Json;
using System.Text.Json.Serialization;

namespace AmberCrate.Cli.Documents;

/// <summary>How documents are written; generated at build time.</summary>
[JsonSerializable(typeof(ErrorDocument))]
[JsonSerializable(typeof(SearchDocument))]
[JsonSerializable(typeof(AboutDocument))]
[JsonSerializable(typeof(CompareDocument))]
[JsonSerializable(typeof(ListDocument))]
[JsonSerializable(typeof(CataloguesDocument))]
[JsonSerializable(typeof(DroppedDocument))]
[JsonSerializable(typeof(PublishedDocument))]
[JsonSerializable(typeof(ExportDocument))]
[JsonSerializable(typeof(SettingsDocument))]
[JsonSerializable(typeof(VersionDocument))]
[JsonSerializable(typeof(PlanDocument))]
[JsonSerializable(typeof(BeginsEvent))]
[JsonSerializable(typeof(StageEvent))]
[JsonSerializable(typeof(WaitsEvent))]
[JsonSerializable(typeof(FetchedEvent))]
[JsonSerializable(typeof(ItemEvent))]
[JsonSerializable(typeof(EndsEvent))]
[JsonSerializable(typeof(NothingEvent))]
[JsonSourceGenerationOptions(GenerationMode = JsonSourceGenerationMode.Metadata)]
internal sealed partial class DocumentContext : JsonSerializerContext
{
    /// <summary>Writes a document over several lines.</summary>
    public static DocumentContext Documents => field ??= new DocumentContext(OptionsFor(isIndented: true));

    /// <summary>Writes a document on one line.</summary>
    public static DocumentContext Lines => field ??= new DocumentContext(OptionsFor(isIndented: false));

    private static JsonSerializerOptions OptionsFor(bool isIndented) => new()
    {
        PropertyNamingPolicy = JsonNamingPolicy.SnakeCaseLower, WriteIndented = isIndented, NewLine = "\n",
        Encoder = JavaScriptEncoder.UnsafeRelaxedJsonEscaping,
    };
}
