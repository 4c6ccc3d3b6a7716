using System.Buffers;
using System.Text.Json;
using System.Text.Json.Serialization;
using System.Text.Json.Serialization.Metadata;

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
[JsonSerializable(typeof(BundleDocument))]
[JsonSerializable(typeof(BundlesDocument))]
[JsonSerializable(typeof(BundleEditDocument))]
[JsonSerializable(typeof(BundleCheckDocument))]
[JsonSerializable(typeof(SealedDocument))]
[JsonSerializable(typeof(RunReportDocument))]
[JsonSerializable(typeof(DifferencesDocument))]
[JsonSerializable(typeof(KitDocument))]
[JsonSerializable(typeof(CardsDocument))]
[JsonSerializable(typeof(CatalogueAboutDocument))]
[JsonSerializable(typeof(SignedDocument))]
[JsonSerializable(typeof(MirroredDocument))]
[JsonSerializable(typeof(KeysDocument))]
[JsonSerializable(typeof(CardReleaseDocument))]
[JsonSerializable(typeof(CardCheckDocument))]
[JsonSerializable(typeof(SettingsDocument))]
[JsonSerializable(typeof(PinsDocument))]
[JsonSerializable(typeof(SchedulesDocument))]
[JsonSerializable(typeof(ScheduledRunDocument))]
[JsonSerializable(typeof(ObservedDocument))]
[JsonSerializable(typeof(CheckDocument))]
[JsonSerializable(typeof(ReclaimDocument))]
[JsonSerializable(typeof(RunsDocument))]
[JsonSerializable(typeof(RunDetailsDocument))]
[JsonSerializable(typeof(VersionDocument))]
[JsonSerializable(typeof(HelpDocument))]
[JsonSerializable(typeof(PlanDocument))]
[JsonSerializable(typeof(BeginsEvent))]
[JsonSerializable(typeof(StageEvent))]
[JsonSerializable(typeof(WaitsEvent))]
[JsonSerializable(typeof(FetchedEvent))]
[JsonSerializable(typeof(ItemEvent))]
[JsonSerializable(typeof(EndsEvent))]
[JsonSerializable(typeof(NothingEvent))]
[JsonSourceGenerationOptions(PropertyNamingPolicy = JsonKnownNamingPolicy.SnakeCaseLower,
    GenerationMode = JsonSourceGenerationMode.Serialization)]
internal sealed partial class DocumentContext : JsonSerializerContext
{
    private static readonly SafeJsonEncoder Safe = new();
    private static readonly JsonWriterOptions OverLines =
        new() { Indented = true, NewLine = "\n", Encoder = Safe };
    private static readonly JsonWriterOptions OnOneLine = new() { Encoder = Safe };

    /// <summary>
    /// Writes a document, over several lines or on one. Documents are only written, so that no code to read them is made.
    /// </summary>
    public static void Write<T>(IBufferWriter<byte> bytes, T document, bool isOverLines)
    {
        using var writer = new Utf8JsonWriter(bytes, isOverLines ? OverLines : OnOneLine);
        ((JsonTypeInfo<T>)Default.GetTypeInfo(typeof(T))!).SerializeHandler!(writer, document);
    }
}
