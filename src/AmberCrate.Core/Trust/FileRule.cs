using AmberCrate.Core.Values;

namespace AmberCrate.Core.Trust;

/// <summary>What a file must be.</summary>
/// <param name="Length">Its length in bytes; null where nothing is said.</param>
/// <param name="Sha256">Its digest; null where only other digests, or none, are said.</param>
/// <param name="Sha512">Its SHA-512 in hexadecimal; null where nothing is said.</param>
public sealed record FileRule(long? Length, Sha256Digest? Sha256, string? Sha512);
