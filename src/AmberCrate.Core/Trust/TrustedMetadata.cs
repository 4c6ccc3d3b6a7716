using AmberCrate.Core.Values;

namespace AmberCrate.Core.Trust;

/// <summary>
/// The trusted state of a repository, and the checks that extend it, in the order of the client workflow
/// of The Update Framework 1.0 (section 5; the steps are named in the code). Nothing is fetched and nothing is kept here. All
/// comparisons with the time take one moment, which is given at the beginning (5.1).
/// </summary>
public sealed class TrustedMetadata
{
    private readonly ISignatureCheck _signatures;
    private readonly DateTimeOffset _now;
    private readonly Dictionary<string, TargetsMetadata> _targets = new(StringComparer.Ordinal);

    /// <summary>Begins with the root that is trusted already (5.2).</summary>
    /// <param name="root">Its bytes.</param>
    /// <param name="signatures">Checks signatures.</param>
    /// <param name="now">The moment of this refresh (5.1).</param>
    /// <exception cref="TrustException">It is no root, or not signed as it says itself.</exception>
    public TrustedMetadata(ReadOnlyMemory<byte> root, ISignatureCheck signatures, DateTimeOffset now)
    {
        (_signatures, _now) = (signatures, now);
        var (read, signed) = Read(root, "the trusted root", "5.2", MetadataReader.Root);
        RequireThreshold(signed, read.Roles[TrustRole.Root], read.Keys, "the trusted root", "5.2");
        Root = read;
    }

    /// <summary>The root that is believed.</summary>
    public RootMetadata Root { get; private set; }

    /// <summary>The timestamp; null if none is believed yet.</summary>
    public TimestampMetadata? Timestamp { get; private set; }

    /// <summary>The snapshot; null if none is believed yet.</summary>
    public SnapshotMetadata? Snapshot { get; private set; }

    /// <summary>The targets of the top level; null where none are believed yet.</summary>
    public TargetsMetadata? Targets => TargetsOf(TargetsMetadata.TopLevel);

    /// <summary>
    /// Whether a timestamp and a snapshot are taken that have expired: for data on a stick, which nobody renews. The root and the
    /// targets must be good in any case.
    /// </summary>
    public bool AcceptsStale { get; init; }

    /// <summary>
    /// What a file must be, by those who may say it (5.6.7), in the order of delegations; null if no role has signed it.
    /// </summary>
    /// <param name="path">The file.</param>
    public FileRule? Find(string path) => Find(path, TargetsMetadata.TopLevel, []).Rule;

    private (FileRule? Rule, bool IsSettled) Find(string path, string role, HashSet<string> asked)
    {
        if (!asked.Add(role) || TargetsOf(role) is not { } targets) return (null, false);
        if (targets.Targets.TryGetValue(path, out var rule)) return (rule, true);
        foreach (var delegation in targets.Delegations.Where(one => one.Fits(path)))
        {
            var (found, isSettled) = Find(path, delegation.Name, asked);
            if (found is not null || isSettled || delegation.IsTerminating) return (found, true);
        }

        return (null, false);
    }

    /// <summary>The targets of a role; null where none are believed yet.</summary>
    public TargetsMetadata? TargetsOf(string role) => _targets.GetValueOrDefault(role);

    /// <summary>Takes the next root, signed by the previous one and by itself (5.3.3 to 5.3.8).</summary>
    /// <exception cref="TrustException">It is not believed.</exception>
    public void TakeRoot(ReadOnlyMemory<byte> bytes)
    {
        var what = $"the root of version {Root.Version + 1}";
        var (next, signed) = Read(bytes, what, "5.3.4", MetadataReader.Root);

        // 5.3.4: a threshold of the keys of the root that is trusted, and a threshold of its own.
        RequireThreshold(signed, Root.Roles[TrustRole.Root], Root.Keys, $"{what}, by the keys of the root before it", "5.3.4");
        RequireThreshold(signed, next.Roles[TrustRole.Root], next.Keys, $"{what}, by its own keys", "5.3.4");

        // 5.3.5: exactly the next version.
        if (next.Version != Root.Version + 1)
            throw new TrustException("root rollback", $"version {Root.Version + 1} was asked for, {next.Version} came", "5.3.5");
        Root = next;
    }

    /// <summary>All new roots have been taken: the last one must still be good (5.3.10).</summary>
    /// <exception cref="TrustException">It has expired.</exception>
    public void SettleRoot() => RequireFresh(Root, "the root", "5.3.10");

    /// <summary>Takes a timestamp (5.4.2 to 5.4.4).</summary>
    /// <param name="bytes">Its bytes.</param>
    /// <param name="isKept">Whether it is the one that was trusted before, which may have expired and have been signed by keys
    /// that no longer count: then it is simply not taken.</param>
    /// <returns>Whether it is newer than the trusted one.</returns>
    /// <exception cref="TrustException">It is not believed.</exception>
    public bool TakeTimestamp(ReadOnlyMemory<byte> bytes, bool isKept = false)
    {
        const string what = "the timestamp";
        var (next, signed) = Read(bytes, what, "5.4.2", MetadataReader.Timestamp);

        // 5.4.2: signed as the root wants it.
        RequireThreshold(signed, Root.Roles[TrustRole.Timestamp], Root.Keys, what, "5.4.2");
        if (Timestamp is { } known)
        {
            // 5.4.3.1 and 5.4.3.2: neither it nor the snapshot goes back.
            RequireNotBefore(known.Version, next.Version, "timestamp rollback", "5.4.3.1");
            RequireNotBefore(known.Snapshot.Version, next.Snapshot.Version, "snapshot rollback", "5.4.3.2");
            if (next.Version == known.Version)
            {
                if (!AcceptsStale) RequireFresh(known, what, "5.4.4");
                return false;
            }
        }

        // 5.4.4: not expired.
        if (!isKept && !AcceptsStale) RequireFresh(next, what, "5.4.4");
        else if (!isKept) RequireSignedByNow(next, what, "5.4.4");
        Timestamp = next;
        return true;
    }

    /// <summary>Takes the snapshot that the timestamp names (5.5.2 to 5.5.6).</summary>
    /// <param name="bytes">Its bytes.</param>
    /// <param name="isKept">Whether it is the one that was trusted before; the timestamp may name a newer one.</param>
    /// <exception cref="TrustException">It is not believed.</exception>
    public void TakeSnapshot(ReadOnlyMemory<byte> bytes, bool isKept = false)
    {
        const string what = "the snapshot";
        var named = Timestamp!.Snapshot;

        // 5.5.2: the digest that the timestamp names.
        if (!isKept) RequireFile(bytes.Span, named.File, what, "5.5.2");
        var (next, signed) = Read(bytes, what, "5.5.3", MetadataReader.Snapshot);

        // 5.5.3: signed as the root wants it.
        RequireThreshold(signed, Root.Roles[TrustRole.Snapshot], Root.Keys, what, "5.5.3");

        // 5.5.4: the version that the timestamp names.
        if (!isKept && next.Version != named.Version)
            throw new TrustException(
                "mix and match", $"the timestamp names snapshot {named.Version}, {next.Version} came", "5.5.4");
        if (Snapshot is { } known)
        {
            // 5.5.5: no role goes back, and none goes away.
            foreach (var (role, before) in known.Meta)
            {
                if (!next.Meta.TryGetValue(role, out var now))
                    throw new TrustException("rollback", $"the snapshot no longer names {role}", "5.5.5");
                RequireNotBefore(before.Version, now.Version, $"{role} rollback", "5.5.5");
            }
        }

        // 5.5.6: not expired.
        if (!isKept && !AcceptsStale) RequireFresh(next, what, "5.5.6");
        else if (!isKept) RequireSignedByNow(next, what, "5.5.6");
        Snapshot = next;
    }

    /// <summary>Takes the targets of a role (5.6.2 to 5.6.6, and 5.6.7 for delegated ones).</summary>
    /// <param name="bytes">Their bytes.</param>
    /// <param name="role">The role.</param>
    /// <param name="delegator">The role that leaves targets to it; null for the top level.</param>
    /// <exception cref="TrustException">They are not believed.</exception>
    public void TakeTargets(ReadOnlyMemory<byte> bytes, string role = TargetsMetadata.TopLevel, string? delegator = null)
    {
        var what = $"the targets of {role}";
        if (!Snapshot!.Meta.TryGetValue(role, out var named))
            throw new TrustException("mix and match", $"the snapshot does not name {role}", "5.6.2");

        // 5.6.2: the digest that the snapshot names.
        RequireFile(bytes.Span, named.File, what, "5.6.2");
        var (next, signed) = Read(bytes, what, "5.6.3", MetadataReader.Targets);

        // 5.6.3: signed as the root, or the role that delegates, wants it.
        if (delegator is null) RequireThreshold(signed, Root.Roles[TrustRole.Targets], Root.Keys, what, "5.6.3");
        else
        {
            var from = _targets[delegator];
            RequireThreshold(signed, from.Delegations.First(one => one.Name == role).Keys, from.Keys, what, "5.6.3");
        }

        // 5.6.4: the version that the snapshot names.
        if (next.Version != named.Version)
            throw new TrustException(
                "mix and match", $"the snapshot names version {named.Version} of {role}, {next.Version} came", "5.6.4");

        // 5.6.5: not expired.
        RequireFresh(next, what, "5.6.5");
        _targets[role] = next;
    }

    /// <summary>Whether bytes are what a rule says.</summary>
    /// <exception cref="TrustException">They are not.</exception>
    public static void RequireFile(ReadOnlySpan<byte> bytes, FileRule rule, string what, string step)
    {
        if (!rule.HasLength(bytes))
            throw new TrustException($"length of {what}", $"{rule.Length} bytes are named, {bytes.Length} came", step);
        if (!rule.Fits(bytes)) throw new TrustException($"digest of {what}", "other bytes came than were signed", step);
    }

    private static (T Metadata, SignedMetadata Signed) Read<T>(
        ReadOnlyMemory<byte> bytes, string what, string step, Func<System.Text.Json.JsonElement, T> read)
    {
        try
        {
            var signed = SignedMetadata.Read(bytes);
            return (read(signed.Content), signed);
        }
        catch (MalformedException fault)
        {
            throw new TrustException($"form of {what}", fault.Message, step, fault);
        }
    }

    private static void RequireNotBefore(long known, long next, string check, string step)
    {
        if (next < known) throw new TrustException(check, $"version {known} is known already, {next} came", step);
    }

    private void RequireFresh(RoleMetadata metadata, string what, string step)
    {
        RequireSignedByNow(metadata, what, step);
        if (metadata.Expires <= _now)
            throw new ExpiredTrustException(
                what, $"it was good until {Shown(metadata.Expires)}; by this machine's clock it is {Shown(_now)}", step);
    }

    /// <summary>
    /// What was signed by a clock that is far ahead would be good for years: whoever has the server could withhold news for as
    /// long.
    /// </summary>
    private void RequireSignedByNow(RoleMetadata metadata, string what, string step)
    {
        if (metadata.Issued is { } issued && issued > _now + RoleMetadata.ClockGrace)
            throw new TrustException(
                $"clock of {what}", $"it was signed at {Shown(issued)}; by this machine's clock it is {Shown(_now)}", step);
    }

    private static string Shown(DateTimeOffset time) => time.UtcDateTime.ToString("yyyy-MM-dd'T'HH:mm:ss'Z'");

    /// <summary>At least a threshold of different keys have signed.</summary>
    private void RequireThreshold(
        SignedMetadata signed, KeyRule rule, IReadOnlyDictionary<string, TrustKey> keys, string what, string step)
    {
        var valid = new RoleRule(rule, keys).Count(signed, _signatures);
        if (valid < rule.Threshold)
            throw new TrustException(
                $"signatures of {what}", $"{rule.Threshold} of {rule.KeyIds.Count} keys must have signed, {valid} have", step);
    }
}
