using AmberCrate.Core.Catalogues;
using AmberCrate.Core.Values;

namespace AmberCrate.Engine.Catalogues;

/// <summary>One part of a catalogue, from where it comes.</summary>
/// <param name="Key">Its digest; the same key means the same lines.</param>
/// <param name="Layer">The layer that it belongs to; what is in a higher one overrides what is below.</param>
/// <param name="Lines">How many lines it has; null where that is not known before.</param>
/// <param name="FetchAsync">Fetches and verifies its bytes, as they are at the location.</param>
/// <param name="Unpack">Turns those bytes into its content: JSON Lines. Called from several threads.</param>
public sealed record PartContent(
    Sha256Digest Key, int Layer, int? Lines, Func<CancellationToken, Task<byte[]>> FetchAsync, Func<byte[], byte[]> Unpack)
{
    /// <summary>Where it lies, relative to the catalogue; null for what lies nowhere by itself.</summary>
    public string? Path { get; init; }

    /// <summary>
    /// The other maintainer who signed it; null for a part of the catalogue itself. A faulty card of another maintainer is left
    /// out, and the rest of the catalogue goes on.
    /// </summary>
    public PartMaintainer? Maintainer { get; init; }

    /// <summary>How many layers one maintainer's part of a catalogue may take.</summary>
    public const int LayersOfOne = PartListing.MaxLayer + 1;
}
