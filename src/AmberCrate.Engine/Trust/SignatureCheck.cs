using System.Security.Cryptography;
using AmberCrate.Core.Trust;
using Org.BouncyCastle.Math.EC.Rfc8032;

namespace AmberCrate.Engine.Trust;

/// <summary>
/// Checks signatures: ECDSA on P-256 by the framework, Ed25519 (RFC 8032), which the framework lacks, by Bouncy Castle.
/// </summary>
public sealed class SignatureCheck : ISignatureCheck
{
    private const int CurveBits = 256;

    /// <inheritdoc/>
    public bool IsValid(TrustKey key, ReadOnlySpan<byte> message, ReadOnlySpan<byte> signature)
    {
        if (!key.IsKnown) return false;
        try
        {
            return key.Type == TrustKey.Ed25519
                ? IsOfEd25519(key.Public, message, signature)
                : IsOfEcdsa(key.Public, message, signature);
        }
        catch (Exception fault) when (fault is CryptographicException or FormatException or ArgumentException)
        {
            return false;
        }
    }

    private static bool IsOfEcdsa(string pem, ReadOnlySpan<byte> message, ReadOnlySpan<byte> signature)
    {
        using var key = ECDsa.Create();
        key.ImportFromPem(pem);
        return key.KeySize == CurveBits
            && key.VerifyData(message, signature, HashAlgorithmName.SHA256, DSASignatureFormat.Rfc3279DerSequence);
    }

    private static bool IsOfEd25519(string hex, ReadOnlySpan<byte> message, ReadOnlySpan<byte> signature)
    {
        var key = Convert.FromHexString(hex);
        return key.Length == Ed25519.PublicKeySize && signature.Length == Ed25519.SignatureSize
            && Ed25519.Verify(signature.ToArray(), 0, key, 0, message.ToArray(), 0, message.Length);
    }
}
