using System.Security.Cryptography;
using AmberCrate.Core.Values;

namespace AmberCrate.Core.Trust;

/// <summary>What a file must be.</summary>
/// <param name="Length">Its length in bytes; null if nothing is said.</param>
/// <param name="Sha256">Its digest; null where only other digests, or none, are said.</param>
/// <param name="Sha512">Its SHA-512 in hexadecimal; null if nothing is said.</param>
public sealed record FileRule(long? Length, Sha256Digest? Sha256, string? Sha512)
{
    /// <summary>Whether bytes have the length that is named.</summary>
    public bool HasLength(ReadOnlySpan<byte> bytes) => Length is null || bytes.Length == Length;

    /// <summary>Whether bytes are what is named: the length and every digest.</summary>
    public bool Fits(ReadOnlySpan<byte> bytes) => HasLength(bytes)
        && (Sha256 is null || Sha256Digest.FromBytes(SHA256.HashData(bytes)) == Sha256)
        && (Sha512 is null || Convert.ToHexStringLower(SHA512.HashData(bytes)) == Sha512);
}
