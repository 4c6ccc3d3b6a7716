using AmberCrate.Core.Values;

namespace AmberCrate.Engine.Placing;

/// <summary>One file of a version on the shelf, as it was when it came there.</summary>
/// <param name="Path">Its path inside the version's folder.</param>
/// <param name="Size">Its length in bytes; 0 for a link.</param>
/// <param name="Sha256">Its digest; null for a link.</param>
/// <param name="Target">Where a link leads; null for a file.</param>
/// <param name="Mode">Its permissions; null for a link, and where they were not noted.</param>
public sealed record ShelfFile(string Path, long Size, Sha256Digest? Sha256, string? Target, UnixFileMode? Mode = null);
