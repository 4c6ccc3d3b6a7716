using AmberCrate.Core.Problems;
using AmberCrate.Engine.Host;
using AmberCrate.Engine.Trust;

namespace AmberCrate.Engine.Publishing;

/// <summary>Signs again what ends soon in a published catalogue, and publishes what has only waited for the online key.</summary>
/// <param name="host">What is around the program.</param>
public sealed class RenewCatalogue(HostEnvironment host)
{
    /// <summary>Signs again what expires soon.</summary>
    /// <param name="folder">The published folder, absolute.</param>
    /// <param name="keys">The keys that are here.</param>
    /// <exception cref="ProblemException">A key is missing, or nothing has been signed there.</exception>
    public Signing Run(string folder, KeyRing keys)
    {
        var repository = ChangeKeys.Repository(folder, keys, host);
        using var alone = PublicationLock.Acquire(folder);
        return repository.Renew();
    }
}
