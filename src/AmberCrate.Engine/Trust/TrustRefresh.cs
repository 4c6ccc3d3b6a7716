using AmberCrate.Core.Problems;
using AmberCrate.Core.Trust;
using AmberCrate.Core.Values;
using AmberCrate.Engine.Fetching;

namespace AmberCrate.Engine.Trust;

/// <summary>
/// One refresh of what is believed of a signed catalogue: the client workflow of The Update Framework 1.0 (section 5), in its
/// order. What is believed is kept at once; where a check fails, what was believed before stays.
/// </summary>
/// <param name="places">The address of the catalogue, ending in <c>/</c>, and those of its mirrors, which are asked where it
/// cannot be reached.</param>
/// <param name="bytes">Opens addresses.</param>
/// <param name="folder">What is believed.</param>
/// <param name="first">The digest of the root that was trusted first.</param>
/// <param name="now">The moment of this refresh.</param>
internal sealed class TrustRefresh(
    IReadOnlyList<Uri> places, IByteSource bytes, TrustFolder folder, Sha256Digest first, DateTimeOffset now)
{
    private const int MostRoot = 512 << 10, MostTimestamp = 64 << 10, MostSnapshot = 2 << 20, MostTargets = 32 << 20;
    private const int MostRotations = 256, MostDelegations = 32;

    private readonly SignatureCheck _signatures = new();

    /// <summary>Whether data are used whose timestamp or snapshot has expired.</summary>
    public bool AcceptsStale { get; init; }

    /// <summary>Fetches and checks the roles, and keeps what is trusted now.</summary>
    /// <param name="cancel">Cancels the operation.</param>
    /// <exception cref="TrustException">A check has failed.</exception>
    public async Task<TrustedMetadata> RunAsync(CancellationToken cancel)
    {
        var trusted = new TrustedMetadata(await RootAsync(cancel), _signatures, now) { AcceptsStale = AcceptsStale };
        await RotateAsync(trusted, cancel);
        await TakeTimestampAsync(trusted, cancel);
        await TakeSnapshotAsync(trusted, cancel);
        await TakeTargetsAsync(trusted, TargetsMetadata.TopLevel, null, cancel);
        return trusted;
    }

    /// <summary>
    /// Takes the targets of delegated roles (5.6.7), each at most once, in preorder. A role that does not verify does not stop
    /// the others.
    /// </summary>
    /// <param name="trusted">What is believed.</param>
    /// <param name="cancel">Cancels the operation.</param>
    /// <returns>The roles that do not verify now, with the reasons.</returns>
    /// <exception cref="TrustException">There are more of them than are followed.</exception>
    public async Task<IReadOnlyDictionary<string, string>> TakeDelegatedAsync(TrustedMetadata trusted, CancellationToken cancel)
    {
        var failed = new Dictionary<string, string>(StringComparer.Ordinal);
        var open = new Stack<(string Role, string Delegator)>();
        var seen = new HashSet<string>(StringComparer.Ordinal) { TargetsMetadata.TopLevel };
        Add(TargetsMetadata.TopLevel);
        while (open.TryPop(out var next))
        {
            if (!seen.Add(next.Role)) continue;

            // What a snapshot has named once cannot go away (5.5.5): who is not in it has not signed anything yet.
            if (!trusted.Snapshot!.Meta.ContainsKey(next.Role)) continue;
            if (seen.Count > MostDelegations)
                throw new TrustException("delegations", $"more than {MostDelegations} roles are named", "5.6.7");
            try
            {
                await TakeTargetsAsync(trusted, next.Role, next.Delegator, cancel);
                Add(next.Role);
            }
            catch (Exception fault) when (fault is TrustException || SourceFault.IsOfSource(fault))
            {
                failed[next.Role] = fault is TrustException check ? $"{check.Check}: {check.Why}"
                    : SourceFault.FromException(fault, places[0]).Problem.What;
            }
        }

        return failed;

        void Add(string role)
        {
            foreach (var delegation in trusted.TargetsOf(role)!.Delegations.Reverse()) open.Push((delegation.Name, role));
        }
    }

    /// <summary>The root that is trusted (5.2); if none is kept yet, the root with the agreed digest.</summary>
    private async Task<byte[]> RootAsync(CancellationToken cancel)
    {
        if (folder.Read(first, TrustFolder.Root) is { } kept) return kept;
        if (await FetchAsync(new RoleFile(TrustFolder.Root, MostRoot, "the root", "5.2"), cancel) is { } newest
            && IsFirst(newest))
            return Keep(newest);
        for (var version = 1; version <= MostRotations; version++)
        {
            var probed = new RoleFile($"{version}.root.json", MostRoot, "the root", "5.2") { IsProbed = true };
            if (await FetchAsync(probed, cancel) is not { } root) break;
            if (IsFirst(root)) return Keep(root);
        }

        throw new TrustException(
            "root", $"no root of the catalogue has the digest that was agreed, {first.Hex}: it is another catalogue", "5.2");

        byte[] Keep(byte[] root)
        {
            // Only a root that is one, and signed as it says itself, is kept.
            _ = new TrustedMetadata(root, _signatures, now);
            folder.Write(first, TrustFolder.Root, root);
            return root;
        }

        bool IsFirst(byte[] root) => Sha256Digest.FromBytes(System.Security.Cryptography.SHA256.HashData(root)) == first;
    }

    /// <summary>Takes new roots, one version at a time (5.3).</summary>
    private async Task RotateAsync(TrustedMetadata trusted, CancellationToken cancel)
    {
        var before = trusted.Root;
        for (var rotation = 0; ; rotation++)
        {
            var name = $"{trusted.Root.Version + 1}.root.json";
            var probed = new RoleFile(name, MostRoot, "the root", "5.3.3") { IsProbed = true };
            if (await FetchAsync(probed, cancel) is not { } next) break;
            if (rotation == MostRotations)
                throw new TrustException("root", $"more than {MostRotations} new roots came at once", "5.3.3");
            trusted.TakeRoot(next);

            // 5.3.8: it is kept before the next one is looked at.
            folder.Write(first, TrustFolder.Root, next);
        }

        trusted.SettleRoot();

        // 5.3.11: where the keys of timestamp or snapshot were replaced, what they had signed is forgotten. Whoever has stolen
        // one of them may have signed a version that is far ahead.
        if (HasOtherKeys(before, trusted.Root, TrustRole.Timestamp) || HasOtherKeys(before, trusted.Root, TrustRole.Snapshot))
            folder.Remove(first, TrustFolder.Timestamp, TrustFolder.Snapshot);
    }

    private static bool HasOtherKeys(RootMetadata before, RootMetadata now, TrustRole role) =>
        !before.Roles[role].KeyIds.ToHashSet(StringComparer.Ordinal).SetEquals(now.Roles[role].KeyIds);

    /// <summary>Takes the timestamp (5.4), held against the previous one.</summary>
    private async Task TakeTimestampAsync(TrustedMetadata trusted, CancellationToken cancel)
    {
        TakeKept(TrustFolder.Timestamp, kept => trusted.TakeTimestamp(kept, isKept: true));
        var fetched = await FetchAsync(new RoleFile("timestamp.json", MostTimestamp, "the timestamp", "5.4.1"), cancel)
            ?? throw Missing("timestamp.json");
        if (trusted.TakeTimestamp(fetched)) folder.Write(first, TrustFolder.Timestamp, fetched);
    }

    /// <summary>Takes the snapshot that the timestamp names (5.5); the previous one where it is still that.</summary>
    private async Task TakeSnapshotAsync(TrustedMetadata trusted, CancellationToken cancel)
    {
        var rule = trusted.Timestamp!.Snapshot;
        byte[]? current = null;
        TakeKept(TrustFolder.Snapshot, kept =>
        {
            trusted.TakeSnapshot(kept, isKept: true);
            if (trusted.Snapshot!.Version == rule.Version && rule.File.Fits(kept)) current = kept;
        });
        if (current is not null)
        {
            trusted.TakeSnapshot(current);
            return;
        }

        var fetched = await FetchRoleAsync(trusted, "snapshot", rule, MostSnapshot, "5.5.1", cancel);
        trusted.TakeSnapshot(fetched);
        folder.Write(first, TrustFolder.Snapshot, fetched);
    }

    /// <summary>Takes the targets of a role (5.6); the previous ones where they are still those.</summary>
    private async Task TakeTargetsAsync(TrustedMetadata trusted, string role, string? delegator, CancellationToken cancel)
    {
        var name = delegator is null ? TrustFolder.Targets : TrustFolder.Delegated(role);
        if (!trusted.Snapshot!.Meta.TryGetValue(role, out var rule))
            throw new TrustException("mix and match", $"the snapshot does not name {role}", "5.6.2");
        if (folder.Read(first, name) is { } kept && rule.File.Fits(kept))
        {
            try
            {
                trusted.TakeTargets(kept, role, delegator);
                return;
            }
            catch (TrustException)
            {
                // Signed by keys that do not count any more, or expired: there must be newer ones.
            }
        }

        var fetched = await FetchRoleAsync(trusted, role, rule, MostTargets, "5.6.1", cancel);
        trusted.TakeTargets(fetched, role, delegator);
        folder.Write(first, name, fetched);
    }

    /// <summary>
    /// Takes what was believed before, so that nothing goes back behind it. What is signed by keys that do not count any more is
    /// as if it were not there. It is not removed: an attack must not make this machine forget what it knows.
    /// </summary>
    private void TakeKept(string name, Action<byte[]> take)
    {
        if (folder.Read(first, name) is not { } kept) return;
        try
        {
            take(kept);
        }
        catch (TrustException)
        {
            // The next one that is believed takes its place.
        }
    }

    private async Task<byte[]> FetchRoleAsync(
        TrustedMetadata trusted, string role, MetaRule rule, int most, string step, CancellationToken cancel)
    {
        var name = trusted.Root.IsConsistent ? $"{rule.Version}.{role}.json" : $"{role}.json";
        var limit = rule.File.Length is { } length ? (int)Math.Min(length, most) : most;
        return await FetchAsync(new RoleFile(Uri.EscapeDataString(name), limit, name, step), cancel) ?? throw Missing(name);
    }

    /// <summary>Fetches a file; null where there is none.</summary>
    private async Task<byte[]?> FetchAsync(RoleFile file, CancellationToken cancel)
    {
        for (var at = 0; ; at++)
        {
            try
            {
                return await FetchAsync(places[at], file, cancel);
            }
            catch (Exception fault) when (at + 1 < places.Count && SourceFault.IsOfSource(fault))
            {
                // It cannot be reached: a mirror has the same file, or an older one, which the checks would find.
            }
        }
    }

    private async Task<byte[]?> FetchAsync(Uri place, RoleFile file, CancellationToken cancel)
    {
        try
        {
            using var content = await bytes.OpenAsync(new FetchRequest(new Uri(place, file.Name)), cancel);
            return await BoundedRead.ReadSignedAsync(content!.Stream, file.Most, file.What, file.Step, cancel);
        }
        catch (Exception fault) when (SourceFault.IsMissing(fault, file.IsProbed))
        {
            return null;
        }
    }

    /// <summary>A file of a role to fetch.</summary>
    /// <param name="Name">Its name.</param>
    /// <param name="Most">The most bytes that it may have.</param>
    /// <param name="What">What it is, for messages.</param>
    /// <param name="Step">The step of the specification.</param>
    private readonly record struct RoleFile(string Name, int Most, string What, string Step)
    {
        /// <summary>Whether the file is usually missing; some servers answer 403 for a missing file.</summary>
        public bool IsProbed { get; init; }
    }

    private ProblemException Missing(string name) => new Problem(
        ProblemCode.Unreachable, $"the catalogue at {SourceFault.Shown(places[0])} has no {name}", "it is signed, and not whole",
        "try again in case it is just being published, otherwise tell its maintainer").ToException();
}
