using System.Text.Json.Serialization;
using AmberCrate.Core.CardFiles;

namespace AmberCrate.Core.Machine;

/// <summary>How records are written as JSON; generated at build time.</summary>
[JsonSourceGenerationOptions(
    PropertyNamingPolicy = JsonKnownNamingPolicy.SnakeCaseLower,
    DefaultIgnoreCondition = JsonIgnoreCondition.WhenWritingNull,
    RespectNullableAnnotations = true,
    Converters =
    [
        typeof(TextConverters.Ids), typeof(TextConverters.Versions), typeof(TextConverters.Lines), typeof(TextConverters.Digests),
        typeof(TextConverters.Paths), typeof(TextConverters.CatalogueNames), typeof(TextConverters.Selectors),
        typeof(TextConverters.Kinds), typeof(TextConverters.Needs),
        typeof(PlaceKindConverter), typeof(TextConverters.Platforms), typeof(TextConverters.FileNames),
    ])]
[JsonSerializable(typeof(InstalledApp))]
internal sealed partial class InstalledAppJsonContext : JsonSerializerContext;
