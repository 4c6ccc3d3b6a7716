using AmberCrate.Core.Problems;
using AmberCrate.Engine.Sessions;
using AmberCrate.Engine.Trust;

namespace AmberCrate.Engine.Publishing;

/// <summary>Adds a maintainer's signature to what waits for it, after they have seen what it is.</summary>
/// <param name="session">The session.</param>
public sealed class SignWaitingRoles(Session session)
{
    /// <summary>Signs what waits for the keys that are here.</summary>
    /// <param name="folder">The published folder, absolute.</param>
    /// <param name="keys">The keys that are here.</param>
    /// <param name="isAgreed">Whether the user has said yes already.</param>
    /// <param name="show">Receives what is to be signed, before anything is.</param>
    /// <param name="cancel">Cancels the operation.</param>
    /// <returns>What was published, and what still waits; null where the user has said no.</returns>
    /// <exception cref="ProblemException">Nothing waits, no key here counts, or there is no terminal to ask on.</exception>
    public Signing? Run(
        string folder, KeyRing keys, bool isAgreed, Action<IReadOnlyList<PreparedChange>> show, CancellationToken cancel)
    {
        var repository = ChangeKeys.Repository(folder, keys, session.Host);
        using var alone = PublicationLock.Acquire(folder);
        show(PublicationChanges.List(folder, repository));
        if (!isAgreed)
        {
            if (!session.Confirm.CanAsk)
                throw new Problem(
                    ProblemCode.Refused, "you have not said whether to sign this", "nothing has been signed",
                    "look at it, then add --yes").ToException();
            if (!session.Confirm.MaySign(cancel)) return null;
        }

        return repository.Cosign();
    }
}
