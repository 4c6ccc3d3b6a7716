using AmberCrate.Core.Trust;
using AmberCrate.Core.Values;
using AmberCrate.Engine.Fetching;

namespace AmberCrate.Engine.Trust;

/// <summary>Signed catalogues: what is believed of them, and how that is brought up to date.</summary>
/// <param name="folder">What is believed, and kept.</param>
/// <param name="clock">The clock.</param>
/// <param name="acceptsStale">Whether data are used whose timestamp or snapshot has expired.</param>
public sealed class TrustStore(TrustFolder folder, TimeProvider clock, bool acceptsStale) : IDisposable
{
    // Two catalogues of one root, such as one and its mirror, share what is believed: they take turns.
    private readonly SemaphoreSlim _turn = new(1);

    /// <summary>Takes a root that a user trusts.</summary>
    /// <param name="root">Its bytes.</param>
    /// <returns>Its digest, which identifies it from now on.</returns>
    /// <exception cref="TrustException">It is no root, or not signed as it says itself.</exception>
    public Sha256Digest Trust(byte[] root)
    {
        _ = new TrustedMetadata(root, new SignatureCheck(), clock.GetUtcNow());
        var digest = Sha256Digest.FromBytes(System.Security.Cryptography.SHA256.HashData(root));
        if (folder.Read(digest, TrustFolder.Root) is null) folder.Write(digest, TrustFolder.Root, root);
        return digest;
    }

    /// <summary>Brings what is believed of a catalogue up to date.</summary>
    /// <param name="address">Its address, ending in <c>/</c>.</param>
    /// <param name="mirrors">Addresses where the same files lie, too.</param>
    /// <param name="bytes">Opens addresses.</param>
    /// <param name="first">The digest of the root that was trusted first.</param>
    /// <param name="cancel">Cancels the operation.</param>
    /// <returns>What is believed now, a source of the files that were signed, and the maintainers with apps of their own who are
    /// not believed now, with the reasons.</returns>
    /// <exception cref="TrustException">A check has failed; what was believed before stays.</exception>
    internal async Task<(TrustedMetadata Trusted, SignedTargets Targets,
        IReadOnlyDictionary<string, string> Failed)> RefreshAsync(
        Uri address, IReadOnlyList<Uri> mirrors, IByteSource bytes, Sha256Digest first, CancellationToken cancel)
    {
        await _turn.WaitAsync(cancel);
        try
        {
            var refresh = new TrustRefresh([address, .. mirrors], bytes, folder, first, clock.GetUtcNow())
            {
                AcceptsStale = acceptsStale,
            };
            var trusted = await refresh.RunAsync(cancel);
            var failed = await refresh.TakeDelegatedAsync(trusted, cancel);
            return (trusted, new SignedTargets(address, mirrors, bytes, trusted.Find, trusted.Root.IsConsistent), failed);
        }
        finally
        {
            _turn.Release();
        }
    }

    /// <inheritdoc/>
    public void Dispose() => _turn.Dispose();

    /// <summary>What is believed of a catalogue; null if nothing is yet.</summary>
    /// <param name="first">The digest of the root that was trusted first.</param>
    public TrustState? StateOf(Sha256Digest first)
    {
        if (folder.Read(first, TrustFolder.Root) is not { } root) return null;
        try
        {
            var left = folder.Read(first, TrustFolder.Targets) is { } known ? UncheckedMetadata.Targets(known).Delegations : [];
            var roles = RolesOf(first).Select(role =>
                role with { Delegation = left.FirstOrDefault(delegation => delegation.Name == role.Name) });
            return new TrustState(UncheckedMetadata.Root(root), [.. roles]);
        }
        catch (MalformedException)
        {
            return null;
        }
    }

    /// <summary>
    /// The version and the end of each role of a catalogue, by a glance; none if nothing is believed yet. Their signatures
    /// were checked before they were kept, and only the owner can write them.
    /// </summary>
    /// <param name="first">The digest of the root that was trusted first.</param>
    public IReadOnlyList<RoleState> RolesOf(Sha256Digest first)
    {
        try
        {
            var roles = new List<RoleState>();
            IReadOnlyList<string> delegated = [];
            foreach (var name in (string[])["root", TargetsMetadata.TopLevel, "snapshot", "timestamp"])
            {
                if (folder.Read(first, $"{name}.json") is not { } bytes)
                {
                    if (roles.Count == 0) return [];
                    continue;
                }

                roles.Add(Role(name, bytes, out var left));
                if (name == TargetsMetadata.TopLevel) delegated = left;
            }

            foreach (var name in delegated)
            {
                if (folder.Read(first, TrustFolder.Delegated(name)) is { } bytes)
                    roles.Add(Role(name, bytes, out _) with { IsDelegated = true });
            }

            return roles;
        }
        catch (MalformedException)
        {
            return [];
        }
    }

    private static RoleState Role(string name, byte[] bytes, out IReadOnlyList<string> delegated)
    {
        var glance = RoleSummary.Parse(bytes);
        delegated = glance.Delegated;
        return new RoleState(name, glance.Version, glance.Expires, glance.Issued);
    }
}
