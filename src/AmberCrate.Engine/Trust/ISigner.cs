using AmberCrate.Core.Trust;

namespace AmberCrate.Engine.Trust;

/// <summary>Signs for one key. Where the key itself is, is its own affair.</summary>
public interface ISigner
{
    /// <summary>The public key.</summary>
    TrustKey Key { get; }

    /// <summary>Signs bytes.</summary>
    /// <exception cref="Core.Problems.ProblemException">It cannot.</exception>
    byte[] Sign(byte[] message);
}
