using AmberCrate.Core.Values;

namespace AmberCrate.Core.Catalogues;

/// <summary>One part as the entry document lists it.</summary>
/// <param name="Sha256">The digest of the compressed file; it is also the file's name.</param>
/// <param name="Size">The size of the compressed file in bytes.</param>
/// <param name="ContentSize">The size of its content in bytes.</param>
/// <param name="Lines">How many lines it has.</param>
/// <param name="Layer">The layer that it belongs to; what is in a higher one overrides what is below.</param>
public sealed record PartListing(Sha256Digest Sha256, long Size, long ContentSize, int Lines, int Layer = 0)
{
    /// <summary>The largest compressed part that is accepted, in bytes.</summary>
    public const long MaxSize = 16L << 20;

    /// <summary>The largest content of a part that is accepted, in bytes.</summary>
    public const long MaxContentSize = 64L << 20;

    /// <summary>The highest layer that is accepted.</summary>
    public const int MaxLayer = 1000;

    /// <summary>Where the part lies, relative to the entry document.</summary>
    public string Path => $"parts/{Sha256.Hex}.{Sha256.Hex[..16]}.jsonl.zst";
}
