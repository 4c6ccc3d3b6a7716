namespace AmberCrate.Core.Trust;

/// <summary>Checks signatures.</summary>
public interface ISignatureCheck
{
    /// <summary>Whether a signature is a key's on a message; false also where the key is none, or of an unknown kind.</summary>
    bool IsValid(TrustKey key, ReadOnlySpan<byte> message, ReadOnlySpan<byte> signature);
}
