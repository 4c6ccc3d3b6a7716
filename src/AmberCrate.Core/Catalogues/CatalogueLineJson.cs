using System.Text.Json.Serialization;

namespace AmberCrate.Core.Catalogues;

/// <summary>How lines that are no cards are written as JSON; generated at build time.</summary>
[JsonSerializable(typeof(Dictionary<string, string>))]
internal sealed partial class CatalogueLineJson : JsonSerializerContext;
