namespace AmberCrate.Core.Trust;

/// <summary>A public key.</summary>
/// <param name="Id">Its id: the SHA-256 of its canonical form, in hexadecimal.</param>
/// <param name="Type">Its type: <c>ecdsa</c>, <c>ed25519</c>, or one that this program does not know.</param>
/// <param name="Scheme">How it signs: <c>ecdsa-sha2-nistp256</c>, <c>ed25519</c>, or another.</param>
/// <param name="Public">The key itself: PEM for ECDSA, hexadecimal for Ed25519.</param>
public sealed record TrustKey(string Id, string Type, string Scheme, string Public)
{
    /// <summary>The type and scheme of ECDSA on the curve P-256 with SHA-256.</summary>
    public const string Ecdsa = "ecdsa", EcdsaScheme = "ecdsa-sha2-nistp256";

    /// <summary>The type and the scheme of Ed25519.</summary>
    public const string Ed25519 = "ed25519";

    /// <summary>The type that older programs give to <see cref="Ecdsa"/>; their ids are not always digests of the key.</summary>
    internal const string OlderEcdsa = "ecdsa-sha2-nistp256";

    /// <summary>Whether signatures of it can be checked here.</summary>
    public bool IsKnown => (Type, Scheme) is (Ecdsa or OlderEcdsa, EcdsaScheme) or (Ed25519, Ed25519);
}
