using System.Text.Json.Serialization;

namespace AmberCrate.Cli.Running;

/// <summary>A run begins, as a line of JSON.</summary>
internal sealed record BeginsEvent(
    [property: JsonPropertyOrder(-1)] string Event,
    int Count,
    long DownloadSize);
