using System.Globalization;
using AmberCrate.Core.Trust;
using AmberCrate.Core.Values;
using AmberCrate.Engine.Fetching;

namespace AmberCrate.Engine.Trust;

/// <summary>Signed catalogues: what is believed of them, and how that is brought up to date.</summary>
/// <param name="folder">What is believed, and kept.</param>
/// <param name="clock">Tells the time.</param>
/// <param name="acceptsStale">Whether data are used whose timestamp or snapshot has expired.</param>
public sealed class SignedCatalogues(TrustFolder folder, TimeProvider clock, bool acceptsStale) : IDisposable
{
    // Two catalogues of one root, such as one and its mirror, share what is believed: they take turns.
    private readonly SemaphoreSlim _turn = new(1);

    /// <summary>Takes a root that a person trusts.</summary>
    /// <param name="root">Its bytes.</param>
    /// <returns>Its digest, by which it is known from now on.</returns>
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
    /// <param name="cancel">Stops.</param>
    /// <returns>What is believed now, and a source of the files that were signed.</returns>
    /// <exception cref="TrustException">A check has failed; what was believed before stays.</exception>
    internal async Task<(TrustedMetadata Trusted, SignedTargets Targets)> RefreshAsync(
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
            await refresh.TakeDelegatedAsync(trusted, cancel);
            return (trusted, new SignedTargets(address, mirrors, bytes, trusted.Find, trusted.Root.IsConsistent));
        }
        finally
        {
            _turn.Release();
        }
    }

    /// <inheritdoc/>
    public void Dispose() => _turn.Dispose();

    /// <summary>What is believed of a catalogue; null where nothing is yet.</summary>
    /// <param name="first">The digest of the root that was trusted first.</param>
    public TrustState? StateOf(Sha256Digest first)
    {
        if (folder.Read(first, TrustFolder.Root) is not { } root) return null;
        try
        {
            // Their signatures were checked before they were kept, and nobody else can write them.
            var roles = new List<RoleState> { Role("root", root) };
            foreach (var (name, file) in new[]
            {
                ("targets", TrustFolder.Targets), ("snapshot", TrustFolder.Snapshot), ("timestamp", TrustFolder.Timestamp),
            })
            {
                if (folder.Read(first, file) is { } bytes) roles.Add(Role(name, bytes));
            }

            var targets = folder.Read(first, TrustFolder.Targets) is { } known ? MetadataOf.Targets(known) : null;
            foreach (var delegation in targets?.Delegations ?? [])
            {
                if (folder.Read(first, TrustFolder.Delegated(delegation.Name)) is { } bytes)
                    roles.Add(Role(delegation.Name, bytes) with { Delegation = delegation });
            }

            return new TrustState(MetadataOf.Root(root), roles);
        }
        catch (MalformedException)
        {
            return null;
        }
    }

    private static RoleState Role(string name, byte[] bytes)
    {
        var signed = SignedMetadata.Read(bytes).Content;
        DateTimeOffset? TimeAt(string key) => signed.TryGetProperty(key, out var value)
            && DateTimeOffset.TryParse(
                value.ToString(), CultureInfo.InvariantCulture, DateTimeStyles.AssumeUniversal, out var time) ? time : null;
        return new RoleState(
            name, signed.GetProperty("version").GetInt64(), TimeAt("expires") ?? DateTimeOffset.MaxValue, TimeAt("issued"));
    }
}
