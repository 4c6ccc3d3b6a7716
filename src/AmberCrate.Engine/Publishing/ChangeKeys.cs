using AmberCrate.Core.Problems;
using AmberCrate.Engine.Host;
using AmberCrate.Engine.Trust;

namespace AmberCrate.Engine.Publishing;

/// <summary>Changes who signs a published catalogue.</summary>
/// <param name="host">What is around the program.</param>
/// <param name="folder">The published folder, absolute.</param>
/// <param name="keys">The keys that are here.</param>
public sealed class ChangeKeys(HostEnvironment host, string folder, KeyRing keys)
{
    /// <summary>Lets a key sign a role too.</summary>
    /// <inheritdoc cref="KeyRoster.Include"/>
    public Signing Include(string publicKey, string name, int? threshold) =>
        Alone(roster => roster.Include(KeyFile.ReadPublic(host.FullPath(publicKey)), name, threshold));

    /// <summary>Lets a key sign a role no longer.</summary>
    /// <inheritdoc cref="KeyRoster.Drop"/>
    public Signing Drop(string id, string name, int? threshold) => Alone(roster => roster.Drop(id, name, threshold));

    /// <summary>Leaves apps to another maintainer.</summary>
    /// <inheritdoc cref="KeyRoster.Delegate"/>
    public Signing Delegate(string name, string publicKey, IReadOnlyList<string> apps) =>
        Alone(roster => roster.Delegate(name, KeyFile.ReadPublic(host.FullPath(publicKey)), apps));

    /// <summary>Takes apps back from another maintainer.</summary>
    /// <inheritdoc cref="KeyRoster.TakeBack"/>
    public Signing TakeBack(string name) => Alone(roster => roster.TakeBack(name));

    /// <summary>Replaces a key.</summary>
    /// <param name="name">The key: root, targets or online.</param>
    /// <param name="passphrase">The passphrase of the keys; null for none.</param>
    /// <exception cref="ProblemException">A key is missing, or nothing has been signed there.</exception>
    public Signing Rotate(string name, string? passphrase)
    {
        _ = Repository(folder, keys, host);
        using var alone = PublicationLock.Acquire(folder);
        return new KeyRotation(folder, keys.Folder, passphrase, host.Clock).Run(name);
    }

    /// <summary>The metadata of a folder that is signed.</summary>
    /// <exception cref="ProblemException">It is not.</exception>
    internal static SignedRepository Repository(string folder, KeyRing keys, HostEnvironment host) =>
        SignedRepository.IsSigned(folder)
            ? new SignedRepository(folder, keys, host.Clock.GetUtcNow())
            : throw new Problem(
                ProblemCode.NothingMatched, $"{folder} is not a signed catalogue",
                remedy: NextCommand.Create("catalogue build", "CARDS-DIR", folder, "--keys", "FOLDER"))
                .ToException();

    private Signing Alone(Func<KeyRoster, Signing> change)
    {
        var repository = Repository(folder, keys, host);
        using var alone = PublicationLock.Acquire(folder);
        return change(new KeyRoster(repository, folder));
    }
}
