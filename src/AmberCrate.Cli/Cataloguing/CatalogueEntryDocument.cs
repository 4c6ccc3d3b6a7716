using System.Text.Json.Serialization;
using AmberCrate.Cli.Shared;

namespace AmberCrate.Cli.Cataloguing;

/// <summary>A catalogue, as JSON.</summary>
internal sealed record CatalogueEntryDocument(
    string Name,
    string Location,
    bool Paused,
    string Trust,
    string? Root,
    string? Title,
    string? Refreshed,
    int? Apps,
    int PartsRead,
    int BundlesRead,
    [property: JsonIgnore(Condition = JsonIgnoreCondition.WhenWritingNull)] ProblemDocument? Problem);
