using System.Security.Cryptography;
using System.Text.Json;
using AmberCrate.Core.Trust;

namespace AmberCrate.Engine.Trust;

/// <summary>How public keys are written in metadata.</summary>
internal static class KeyText
{
    /// <summary>An ECDSA key.</summary>
    public static TrustKey OfEcdsa(ECDsa key) =>
        Parse(TrustKey.Ecdsa, TrustKey.EcdsaScheme, key.ExportSubjectPublicKeyInfoPem() + "\n");

    /// <summary>An Ed25519 key.</summary>
    public static TrustKey OfEd25519(byte[] key) => Parse(TrustKey.Ed25519, TrustKey.Ed25519, Convert.ToHexStringLower(key));

    /// <summary>A key, with the id that is the digest of its canonical form.</summary>
    public static TrustKey Parse(string type, string scheme, string text)
    {
        var key = new TrustKey("", type, scheme, text);
        using var json = JsonDocument.Parse(Json(key));
        return key with { Id = Convert.ToHexStringLower(SHA256.HashData(CanonicalJson.Write(json.RootElement))) };
    }

    /// <summary>A key as JSON.</summary>
    public static string Json(TrustKey key) =>
        $"{{\"keytype\":{Quoted(key.Type)},\"keyval\":{{\"public\":{Quoted(key.Public)}}},\"scheme\":{Quoted(key.Scheme)}}}";

    private static string Quoted(string text) => $"\"{JsonEncodedText.Encode(text)}\"";
}
