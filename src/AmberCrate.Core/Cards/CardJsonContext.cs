using System.Text.Json.Serialization;

namespace AmberCrate.Core.Cards;

/// <summary>How cards are written as JSON; generated at build time, so that nothing is looked up by reflection.</summary>
[JsonSourceGenerationOptions(
    PropertyNamingPolicy = JsonKnownNamingPolicy.SnakeCaseLower,
    DefaultIgnoreCondition = JsonIgnoreCondition.WhenWritingNull,
    UnmappedMemberHandling = JsonUnmappedMemberHandling.Disallow,
    RespectNullableAnnotations = true,
    Converters =
    [
        typeof(TextConverters.Ids), typeof(TextConverters.Versions), typeof(TextConverters.Lines), typeof(TextConverters.Digests),
        typeof(TextConverters.Paths), typeof(TextConverters.FileNames), typeof(TextConverters.Locations), typeof(TextConverters.Platforms),
        typeof(TextConverters.Kinds), typeof(TextConverters.Forms), typeof(TextConverters.SignIns), typeof(TextConverters.ReviewStates),
    ])]
[JsonSerializable(typeof(AppCard))]
internal sealed partial class CardJsonContext : JsonSerializerContext;
