using System.Text.Json.Serialization;
using AmberCrate.Core.Values;

namespace AmberCrate.Core.Machine;

/// <summary>One of the files that an installed app came from.</summary>
/// <param name="Source">Its address.</param>
/// <param name="Sha256">Its digest.</param>
public sealed record DeliveredFile(string Source, Sha256Digest Sha256)
{
    /// <summary>The last part of its address.</summary>
    [JsonIgnore]
    public string Name => Source[(Source.LastIndexOf('/') + 1)..] is { Length: > 0 } name ? name : Source;
}
