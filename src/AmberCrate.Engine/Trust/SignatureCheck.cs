using System.Security.Cryptography;
using AmberCrate.Core.Trust;
using Org.BouncyCastle.Crypto.Digests;
using Org.BouncyCastle.Crypto.Engines;
using Org.BouncyCastle.Crypto.Parameters;
using Org.BouncyCastle.Crypto.Signers;
using Org.BouncyCastle.Math;
using Org.BouncyCastle.Math.EC.Rfc8032;

namespace AmberCrate.Engine.Trust;

/// <summary>
/// Checks signatures: ECDSA on P-256 and RSA with PSS by the framework, Ed25519 (RFC 8032), which the framework lacks, by Bouncy
/// Castle.
/// </summary>
public sealed class SignatureCheck : ISignatureCheck
{
    private const int CurveBits = 256, LeastRsaBits = 2048, MostRsaBits = 16384;

    private const int DigestLength = 32;

    /// <inheritdoc/>
    public bool IsValid(TrustKey key, ReadOnlySpan<byte> message, ReadOnlySpan<byte> signature)
    {
        if (!key.IsKnown) return false;
        try
        {
            return key.Type switch
            {
                TrustKey.Ed25519 => IsOfEd25519(key.Public, message, signature),
                TrustKey.Rsa => IsOfRsa(key.Public, message, signature),
                _ => IsOfEcdsa(key.Public, message, signature),
            };
        }
        catch (Exception fault) when (fault is CryptographicException or FormatException or ArgumentException
            or Org.BouncyCastle.Crypto.CryptoException or ArithmeticException)
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

    private static bool IsOfRsa(string pem, ReadOnlySpan<byte> message, ReadOnlySpan<byte> signature)
    {
        using var key = RSA.Create();
        key.ImportFromPem(pem);
        if (key.KeySize is < LeastRsaBits or > MostRsaBits) return false;

        // RFC 8017 leaves the length of the salt open: most programs take that of the digest, some the longest that fits.
        return key.VerifyData(message, signature, HashAlgorithmName.SHA256, RSASignaturePadding.Pss)
            || IsOfLongestSalt(key, message, signature);
    }

    private static bool IsOfLongestSalt(RSA key, ReadOnlySpan<byte> message, ReadOnlySpan<byte> signature)
    {
        var numbers = key.ExportParameters(includePrivateParameters: false);
        var longest = ((key.KeySize + 6) / 8) - DigestLength - 2;
        var signer = new PssSigner(new RsaEngine(), new Sha256Digest(), longest);
        signer.Init(false, new RsaKeyParameters(
            isPrivate: false, new BigInteger(1, numbers.Modulus), new BigInteger(1, numbers.Exponent)));
        signer.BlockUpdate(message.ToArray(), 0, message.Length);
        return signer.VerifySignature(signature.ToArray());
    }

    private static bool IsOfEd25519(string hex, ReadOnlySpan<byte> message, ReadOnlySpan<byte> signature)
    {
        var key = Convert.FromHexString(hex);
        return key.Length == Ed25519.PublicKeySize && signature.Length == Ed25519.SignatureSize
            && Ed25519.Verify(signature.ToArray(), 0, key, 0, message.ToArray(), 0, message.Length);
    }
}
