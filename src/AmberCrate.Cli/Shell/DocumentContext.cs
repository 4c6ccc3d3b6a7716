using System.Text.Json.Serialization;
using AmberCrate.Cli.Bundling;
using AmberCrate.Cli.Cataloguing;
using AmberCrate.Cli.Checking;
using AmberCrate.Cli.Comparing;
using AmberCrate.Cli.Configuring;
using AmberCrate.Cli.Drafting;
using AmberCrate.Cli.Exporting;
using AmberCrate.Cli.Kits;
using AmberCrate.Cli.Listing;
using AmberCrate.Cli.PastRuns;
using AmberCrate.Cli.Publishing;
using AmberCrate.Cli.Reclaiming;
using AmberCrate.Cli.Running;
using AmberCrate.Cli.Scheduling;
using AmberCrate.Cli.Searching;
using AmberCrate.Cli.Shared;

namespace AmberCrate.Cli.Shell;

/// <summary>All JSON documents and events of the program, so that the code that writes them is generated at build time.</summary>
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
internal sealed partial class DocumentContext : JsonSerializerContext;
