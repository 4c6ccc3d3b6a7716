using AmberCrate.Core.Cards;

namespace AmberCrate.Engine.Catalogues;

/// <summary>One shard of a catalogue, from wherever it comes.</summary>
/// <param name="Key">The digest by which it is known; the same key means the same cards.</param>
/// <param name="Apps">How many cards it holds.</param>
/// <param name="FetchAsync">Fetches and verifies its bytes, as they are at the location.</param>
/// <param name="Unpack">Turns those bytes into its content: JSON Lines.</param>
public sealed record ShardContent(Sha256Digest Key, int Apps, Func<CancellationToken, Task<byte[]>> FetchAsync, Func<byte[], byte[]> Unpack);
