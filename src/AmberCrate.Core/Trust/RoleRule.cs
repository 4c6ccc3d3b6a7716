namespace AmberCrate.Core.Trust;

/// <summary>Who must sign a role, with the keys themselves.</summary>
/// <param name="Rule">Which keys count, and how many of them must have signed.</param>
/// <param name="Keys">The keys, by id.</param>
public sealed record RoleRule(KeyRule Rule, IReadOnlyDictionary<string, TrustKey> Keys)
{
    /// <summary>
    /// How many different keys that count have signed. Signatures of others do no harm and do not count. Keys are counted as
    /// keys: one that is written in two ways, under two ids, counts once.
    /// </summary>
    /// <param name="metadata">What was signed.</param>
    /// <param name="signatures">Checks signatures.</param>
    public int Count(SignedMetadata metadata, ISignatureCheck signatures) => metadata.Signatures
        .Where(signature => Rule.KeyIds.Contains(signature.KeyId))
        .Select(signature => Keys.TryGetValue(signature.KeyId, out var key)
            && signatures.IsValid(key, metadata.Canonical, signature.Signature) ? key.Identity : null)
        .OfType<string>().Distinct(StringComparer.Ordinal).Count();

    /// <summary>Whether enough of them have signed; nothing is signed by nobody.</summary>
    /// <param name="metadata">What was signed; null for nothing.</param>
    /// <param name="signatures">Checks signatures.</param>
    public bool IsMet(SignedMetadata? metadata, ISignatureCheck signatures) =>
        metadata is not null && Count(metadata, signatures) >= Rule.Threshold;
}
