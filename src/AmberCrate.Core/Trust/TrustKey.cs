using System.Security.Cryptography;
using System.Text;

namespace AmberCrate.Core.Trust;

/// <summary>A public key.</summary>
/// <param name="Id">Its id: the SHA-256 of its canonical form, in hexadecimal.</param>
/// <param name="Type">Its type: <c>ecdsa</c>, <c>ed25519</c>, <c>rsa</c>, or one that this program does not know.</param>
/// <param name="Scheme">How it signs: <c>ecdsa-sha2-nistp256</c>, <c>ed25519</c>, <c>rsassa-pss-sha256</c>, or another.</param>
/// <param name="Public">The key itself: PEM for ECDSA and RSA, hexadecimal for Ed25519.</param>
public sealed record TrustKey(string Id, string Type, string Scheme, string Public)
{
    /// <summary>The type and scheme of ECDSA on the curve P-256 with SHA-256.</summary>
    public const string Ecdsa = "ecdsa", EcdsaScheme = "ecdsa-sha2-nistp256";

    /// <summary>The type and the scheme of Ed25519.</summary>
    public const string Ed25519 = "ed25519";

    /// <summary>The type and scheme of RSA with PSS padding and SHA-256 (RFC 8017, section 8.1).</summary>
    public const string Rsa = "rsa", RsaScheme = "rsassa-pss-sha256";

    /// <summary>The type that older programs give to <see cref="Ecdsa"/>; their ids are not always digests of the key.</summary>
    internal const string OlderEcdsa = "ecdsa-sha2-nistp256";

    /// <summary>Whether signatures of it can be checked here.</summary>
    public bool IsKnown => (Type, Scheme) is (Ecdsa or OlderEcdsa, EcdsaScheme) or (Ed25519, Ed25519)
        or (Rsa, RsaScheme);

    /// <summary>
    /// The key without the accidents of how it is written: two keys of the same identity are one key, whatever their line ends,
    /// blanks, headings or ids.
    /// </summary>
    public string Identity
    {
        get
        {
            if (!PemEncoding.TryFind(Public, out var fields)) return Convert.ToHexStringLower(Plain(Public));
            var der = Convert.FromBase64String(Public[fields.Base64Data]);
            try
            {
                return IdentityOf(der);
            }
            catch (CryptographicException)
            {
                return Convert.ToHexStringLower(der);
            }
        }
    }

    /// <summary>
    /// The point or the number that the key is; the same one can be written in several ways (SEC 1, section 2.3).
    /// </summary>
    private string IdentityOf(byte[] der)
    {
        if (Type == Rsa)
        {
            using var rsa = RSA.Create();
            rsa.ImportSubjectPublicKeyInfo(der, out _);
            return Convert.ToHexStringLower(rsa.ExportSubjectPublicKeyInfo());
        }

        using var key = ECDsa.Create();
        key.ImportSubjectPublicKeyInfo(der, out _);
        var point = key.ExportParameters(includePrivateParameters: false).Q;
        return Convert.ToHexStringLower(point.X!) + Convert.ToHexStringLower(point.Y!);
    }

    private static byte[] Plain(string text) =>
        Encoding.UTF8.GetBytes(string.Concat(text.Where(letter => !char.IsWhiteSpace(letter))).ToLowerInvariant());
}
