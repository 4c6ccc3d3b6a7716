using AmberCrate.Core.Cards;

namespace AmberCrate.Core.Catalogues;

/// <summary>One shard as the entry document lists it.</summary>
/// <param name="Sha256">The digest of the compressed file; it is also the file's name.</param>
/// <param name="Size">The size of the compressed file in bytes.</param>
/// <param name="ContentSize">The size of its content in bytes.</param>
/// <param name="Apps">How many cards it holds, one a line.</param>
public sealed record ShardListing(Sha256Digest Sha256, long Size, long ContentSize, int Apps)
{
    /// <summary>The largest compressed shard that is accepted, in bytes.</summary>
    public const long MaxSize = 64L << 20;

    /// <summary>The largest content of a shard that is accepted, in bytes.</summary>
    public const long MaxContentSize = 512L << 20;

    /// <summary>Where the shard lies, relative to the entry document.</summary>
    public string Path => $"shards/{Sha256.Hex}.jsonl.zst";
}
