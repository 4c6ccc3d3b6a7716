using System.Security.Cryptography;
using AmberCrate.Core.Problems;
using AmberCrate.Core.Trust;
using AmberCrate.Core.Values;

namespace AmberCrate.Engine.Trust;

/// <summary>
/// The signed metadata of a published folder, as the maintainers make them. They are written so that a reader finds at every
/// moment what belongs together: the targets first, then the snapshot that names them, then the timestamp that names the
/// snapshot. A new root comes last, when all of that is signed as it wants it. What lacks signatures waits in
/// <c>prepared/</c> until enough maintainers have signed it.
/// </summary>
/// <param name="folder">The published folder.</param>
/// <param name="keys">The keys that are here.</param>
/// <param name="now">The time now.</param>
public sealed class SignedRepository(string folder, KeyRing keys, DateTimeOffset now)
{
    // The rest of the period of a role when it is signed again.
    private const double ShareToRenew = 0.5;

    private static readonly SignatureCheck Signatures = new();

    private static readonly Dictionary<TrustRole, TimeSpan> Periods = new()
    {
        [TrustRole.Root] = TimeSpan.FromDays(400), [TrustRole.Targets] = TimeSpan.FromDays(180),
        [TrustRole.Snapshot] = TimeSpan.FromDays(14), [TrustRole.Timestamp] = TimeSpan.FromDays(7),
    };

    private readonly RepositoryFiles _files = new(folder);
    private readonly List<string> _published = [];

    /// <summary>Whether a folder has been signed.</summary>
    public static bool IsSigned(string folder) => File.Exists(Path.Combine(folder, TrustFolder.Root));

    /// <summary>The digest of the root of a folder; null where it is not signed.</summary>
    public static Sha256Digest? RootOf(string folder) => IsSigned(folder)
        ? Sha256Digest.FromBytes(SHA256.HashData(File.ReadAllBytes(Path.Combine(folder, TrustFolder.Root))))
        : null;

    /// <summary>The root that is published.</summary>
    /// <exception cref="ProblemException">There is none, or it cannot be used.</exception>
    internal RootMetadata Root => ReadRoot(
        _files.ReadRole(TrustWords.Root) ?? throw new Problem(
            ProblemCode.NothingMatched, $"{folder} is not a signed catalogue",
            remedy: NextCommand.Create("catalogue build", "CARDS-DIR", folder, "--keys", "FOLDER"))
            .ToException());

    /// <summary>The root that waits for signatures; null where none does.</summary>
    internal RootMetadata? NextRoot =>
        RepositoryFiles.Read(_files.Prepared(TrustWords.Root), UncheckedMetadata.Root) is { } next && next.Version > Root.Version
            ? next
            : null;

    /// <summary>The targets of a role as they are published; null where they are not.</summary>
    internal TargetsMetadata? TargetsOf(string role) => RepositoryFiles.Read(_files.ReadRole(role), UncheckedMetadata.Targets);

    /// <summary>The targets of a role that wait for signatures; null where they do not.</summary>
    internal TargetsMetadata? NextTargetsOf(string role) =>
        RepositoryFiles.Read(_files.Prepared(role), UncheckedMetadata.Targets) is { } next
            && next.Version > (TargetsOf(role)?.Version ?? 0)
            ? next
            : null;

    /// <summary>
    /// The files that readers may ask for now: those of the targets that are published, and of those that the snapshot names.
    /// </summary>
    internal IEnumerable<KeyValuePair<string, FileRule>> ReadersFiles() =>
        from role in Roles().ToList()
        let named = Snapshot?.Meta.GetValueOrDefault(role)?.Version
        let read = named is null ? null : _files.Bytes($"{named}.{role}.json")
        from bytes in new[] { _files.ReadRole(role), _files.Prepared(role), read }
        let targets = RepositoryFiles.Read(bytes, UncheckedMetadata.Targets)
        where targets is not null
        from file in targets.Targets
        select file;

    /// <summary>
    /// Signs files as the targets of a role. Where they are the same as before, only what ends soon is signed again.
    /// </summary>
    /// <param name="files">The files by target path, each with its place in the folder.</param>
    /// <param name="role">The role: targets, or a delegated one.</param>
    /// <returns>What was signed, and what waits for others.</returns>
    /// <exception cref="ProblemException">A key is missing or is not the role's.</exception>
    public Signing Sign(IReadOnlyDictionary<string, string> files, string role = TargetsMetadata.TopLevel)
    {
        if (!IsSigned(folder)) WriteFirstRoot();
        RenewRoot();
        var wanted = files.OrderBy(file => file.Key, StringComparer.Ordinal)
            .Select(file => (Path: file.Key, Rule: RuleOf(Path.Combine(folder, file.Value)))).ToList();
        var (known, waiting) = (TargetsOf(role), NextTargetsOf(role));
        var signers = RequireSigners(role);
        if (waiting is not null && Has(waiting, wanted) && !IsDue(TrustRole.Targets, waiting)) Cosign(role, signers);
        else if (known is null || !Has(known, wanted) || IsDue(TrustRole.Targets, known)) WriteTargets(role, wanted, signers);
        else _files.DropPrepared(role);
        return Commit();
    }

    /// <summary>Signs again what ends soon: timestamp and snapshot, and root and targets where their keys are here.</summary>
    /// <returns>What was signed, and what waits for others.</returns>
    /// <exception cref="ProblemException">A key is missing, or nothing has been signed here.</exception>
    public Signing Renew()
    {
        _ = Root;
        RenewRoot();
        foreach (var role in Roles())
        {
            if (TargetsOf(role) is { } targets && IsDue(TrustRole.Targets, targets) && NextTargetsOf(role) is null
                && SignersOf(role) is { Count: > 0 } signers)
                WriteTargets(role, FilesOf(targets), signers);
        }

        var done = Commit();
        if (done.Waiting.Any(role => role.Name is TrustWords.Snapshot or TrustWords.Timestamp)) keys.Require(TrustRole.Timestamp);
        return done;
    }

    /// <summary>Adds signatures to what waits for some, and publishes what has enough.</summary>
    /// <returns>What was published, and what still waits.</returns>
    /// <exception cref="ProblemException">Nothing waits, no key here counts, or a file is not what is to be signed.</exception>
    public Signing Cosign()
    {
        _ = Root;
        string[] waiting = [.. Roles().Prepend(TrustWords.Root).Where(role => _files.Prepared(role) is not null)];
        if (waiting.Length == 0)
            throw new Problem(ProblemCode.NothingMatched, $"nothing in {folder} waits for a signature").ToException();
        var count = 0;
        foreach (var role in waiting)
        {
            if (SignersOf(role) is not { Count: > 0 } signers) continue;
            if (NextTargetsOf(role) is { } targets) RequireFiles(role, targets);
            Cosign(role, signers);
            count++;
        }

        return count > 0 ? Commit() : throw new Problem(
            ProblemCode.Refused, $"no key in {keys.Folder} counts for what waits in {folder}",
            $"it waits for keys of {string.Join(", ", waiting)}",
            "bring the folder of a key that the root names; acrate catalogue keys list FOLDER tells their ids").ToException();
    }

    /// <summary>Puts forward a root that follows the current one, signs it with the keys that are here, and publishes it as soon
    /// as it can be.</summary>
    /// <param name="rules">Who must sign each role.</param>
    /// <param name="known">The keys.</param>
    /// <returns>What was published, and what waits.</returns>
    internal Signing Propose(IReadOnlyDictionary<TrustRole, KeyRule> rules, IEnumerable<TrustKey> known)
    {
        var head = new RoleHead(TrustWords.Root, Root.Version + 1, now, Periods[TrustRole.Root]);
        var text = RoleText.Root(head, rules, known.DistinctBy(key => key.Id).ToDictionary(key => key.Id));
        _files.Prepare(TrustWords.Root, text);
        Cosign(TrustWords.Root, RequireSigners(TrustWords.Root));
        return Commit();
    }

    /// <summary>Leaves targets to others, signs that with the keys here, and publishes it as soon as it can be.</summary>
    /// <param name="known">The keys of the others.</param>
    /// <param name="delegations">Who signs which apps.</param>
    internal Signing Delegate(IEnumerable<TrustKey> known, IReadOnlyList<Delegation> delegations)
    {
        var targets = TargetsOf(TargetsMetadata.TopLevel)!;
        WriteTargets(
            TargetsMetadata.TopLevel, FilesOf(targets), RequireSigners(TargetsMetadata.TopLevel), (known, delegations));
        return Commit();
    }

    /// <summary>The signers here that count for a role, now or under the root that waits.</summary>
    internal IReadOnlyList<ISigner> SignersOf(string role)
    {
        var (rules, main) = (RulesOf(role), keys.For(KindOf(role)));
        if (main is not null && rules.Count > 0 && rules.TrueForAll(rule => rule.Rule.KeyIds.Contains(main.Key.Id)))
            return [main];
        return [.. keys.AllFor(KindOf(role)).Where(signer => rules.Exists(rule => rule.Rule.KeyIds.Contains(signer.Key.Id)))];
    }

    private IReadOnlyList<ISigner> RequireSigners(string role)
    {
        if (SignersOf(role) is { Count: > 0 } signers) return signers;
        var kind = KindOf(role);
        _ = keys.Require(kind);
        throw new Problem(
            ProblemCode.Refused,
            RulesOf(role).Count == 0
                ? $"{folder} leaves no apps to \"{role}\""
                : $"{keys.PathOf(KeyRing.NameFor(kind))} is not the key that the root names for {role}",
            "machines would not accept what it signs",
            "bring the key that is named; after a rotation that was cut off it is beside it, as KEY.old.pem").ToException();
    }

    /// <summary>Who must sign a role: as it is now, and as it will be under a root that waits.</summary>
    private List<RoleRule> RulesOf(string role)
    {
        if (IsDelegated(role))
            return TargetsOf(TargetsMetadata.TopLevel) is { } targets
                && targets.Delegations.FirstOrDefault(one => one.Name == role) is { } found
                ? [new RoleRule(found.Keys, targets.Keys)]
                : [];
        var kind = KindOf(role);
        return [.. new[] { Root, NextRoot }.OfType<RootMetadata>().Select(root => new RoleRule(root.Roles[kind], root.Keys))];
    }

    /// <summary>Whether a published role has the signatures that it must have, now and under a root that waits.</summary>
    private bool IsMet(string role) => IsMet(role, _files.ReadRole(role));

    private bool IsMet(string role, byte[]? bytes)
    {
        var signed = RepositoryFiles.Read(bytes, SignedMetadata.Read);
        return RulesOf(role) is { Count: > 0 } rules && rules.TrueForAll(rule => rule.IsMet(signed, Signatures));
    }

    private void WriteFirstRoot()
    {
        var signers = Enum.GetValues<TrustRole>().ToDictionary(role => role, role => keys.Require(role).Key);
        var text = RoleText.Root(
            new RoleHead(TrustWords.Root, 1, now, Periods[TrustRole.Root]),
            signers.ToDictionary(pair => pair.Key, pair => new KeyRule([pair.Value.Id], 1)),
            signers.Values.DistinctBy(key => key.Id).ToDictionary(key => key.Id));
        Publish(TrustWords.Root, 1, RoleText.Signed(text, [keys.Require(TrustRole.Root)]));
    }

    private void RenewRoot()
    {
        var root = Root;
        if (!IsDue(TrustRole.Root, root) || NextRoot is not null || SignersOf(TrustWords.Root).Count == 0) return;
        var head = new RoleHead(TrustWords.Root, root.Version + 1, now, Periods[TrustRole.Root]);
        _files.Prepare(TrustWords.Root, RoleText.Root(head, root.Roles, root.Keys));
        Cosign(TrustWords.Root, SignersOf(TrustWords.Root));
    }

    private RootMetadata ReadRoot(byte[] bytes)
    {
        try
        {
            var root = new TrustedMetadata(bytes, Signatures, now).Root;

            // A root that was written before a sudden end is out: machines may have it, so it is the one to go on from.
            while (_files.Bytes($"{root.Version + 1}.root.json") is { } next)
            {
                root = new TrustedMetadata(next, Signatures, now).Root;
                _files.Publish(TrustWords.Root, root.Version, next);
            }

            return root;
        }
        catch (TrustException fault)
        {
            throw new Problem(
                ProblemCode.NotVerified, $"{Path.Combine(folder, TrustFolder.Root)} cannot be used", fault.Message,
                "put back the file as it was published").ToException(fault);
        }
    }

    /// <summary>
    /// Publishes what has its signatures, in the order that readers need it, and says what waits. What a root that waits
    /// would not believe is signed again first, by keys that both roots name.
    /// </summary>
    private Signing Commit()
    {
        DropOutrun();
        foreach (var role in Roles().Where(role => IsMet(role, _files.Prepared(role))).ToList())
            Publish(role, NextTargetsOf(role)!.Version, _files.Prepared(role)!);
        if (TargetsOf(TargetsMetadata.TopLevel) is { } targets && !IsMet(TargetsMetadata.TopLevel)
            && NextTargetsOf(TargetsMetadata.TopLevel) is null && SignersOf(TargetsMetadata.TopLevel) is { Count: > 0 } signers)
            WriteTargets(TargetsMetadata.TopLevel, FilesOf(targets), signers);
        var online = SettleOnline();
        if (NextRoot is { } next && IsMet(TrustWords.Root, _files.Prepared(TrustWords.Root)) && CanFollow(next))
        {
            Publish(TrustWords.Root, next.Version, _files.Prepared(TrustWords.Root)!);
            online = SettleOnline();
        }

        return new Signing(
            _published, [.. Roles().Prepend(TrustWords.Root).Select(Waiting).Append(online).OfType<WaitingRole>()]);
    }

    /// <summary>What waits and is not newer than what is published can never be published.</summary>
    private void DropOutrun()
    {
        foreach (var role in Roles().Where(role => NextTargetsOf(role) is null).ToList()) _files.DropPrepared(role);
        if (NextRoot is null) _files.DropPrepared(TrustWords.Root);
    }

    private SnapshotMetadata? Snapshot => RepositoryFiles.Read(_files.ReadRole(TrustWords.Snapshot), UncheckedMetadata.Snapshot);

    /// <summary>
    /// Whether readers with a root that waits would believe the rest: the targets that they will see are signed as it wants
    /// them, and snapshot and timestamp are, or can be signed so here and at once.
    /// </summary>
    private bool CanFollow(RootMetadata next)
    {
        if (TargetsOf(TargetsMetadata.TopLevel) is not { } targets) return true;
        var ids = next.Roles[TrustRole.Snapshot].KeyIds;
        var isOnlineHere = keys.For(TrustRole.Snapshot) is { } online && ids.Contains(online.Key.Id);
        return IsMet(TargetsMetadata.TopLevel) && (isOnlineHere || (IsMet(TrustWords.Snapshot) && IsMet(TrustWords.Timestamp)
            && Snapshot?.Meta[TargetsMetadata.TopLevel].Version == targets.Version));
    }

    private WaitingRole? Waiting(string role)
    {
        if (RepositoryFiles.Read(_files.Prepared(role), SignedMetadata.Read) is not { } signed) return null;
        var least = RulesOf(role).Select(rule => (Count: rule.Count(signed, Signatures), rule.Rule.Threshold))
            .MinBy(one => one.Count - one.Threshold);
        return new WaitingRole(
            role, signed.Content.GetProperty("version").GetInt64(), least.Count, least.Threshold);
    }

    /// <summary>
    /// Signs snapshot and timestamp where they do not name what is published, end soon, or are not believed.
    /// </summary>
    /// <returns>The role that waits for the online key; null where none does.</returns>
    private WaitingRole? SettleOnline()
    {
        var named = NamedRoles();
        if (named.Count == 0) return null;
        var snapshot = Snapshot;
        if (snapshot is null || IsDue(TrustRole.Snapshot, snapshot) || CanBeSignedMore(TrustWords.Snapshot)
            || !named.All(one => snapshot.Meta.GetValueOrDefault(one.Role)?.Version == one.Version))
        {
            if (SignOnline(TrustWords.Snapshot, snapshot?.Version, named) is { } waiting) return waiting;
            snapshot = Snapshot!;
        }

        var timestamp = RepositoryFiles.Read(_files.ReadRole(TrustWords.Timestamp), UncheckedMetadata.Timestamp);
        return timestamp is null || timestamp.Snapshot.Version != snapshot.Version || IsDue(TrustRole.Timestamp, timestamp)
            || CanBeSignedMore(TrustWords.Timestamp)
            ? SignOnline(
                TrustWords.Timestamp, timestamp?.Version,
                [(TrustWords.Snapshot, snapshot.Version, _files.ReadRole(TrustWords.Snapshot)!)])
            : null;
    }

    /// <summary>Writes and publishes a snapshot or a timestamp, where it can be signed as the current root wants it.</summary>
    private WaitingRole? SignOnline(string role, long? known, List<(string Role, long Version, byte[] Bytes)> files)
    {
        var (version, rule) = ((known ?? 0) + 1, CurrentRule(role));
        var bytes = RoleText.Signed(
            RoleText.Meta(new RoleHead(role, version, now, Periods[KindOf(role)]), files), SignersOf(role));
        var count = rule.Count(SignedMetadata.Read(bytes), Signatures);
        if (count < rule.Rule.Threshold) return new WaitingRole(role, version, count, rule.Rule.Threshold);
        Publish(role, version, bytes);
        return null;
    }

    /// <summary>Whether a role that is published lacks a signature that can be given here.</summary>
    private bool CanBeSignedMore(string role) => !IsMet(role)
        && (!CurrentRule(role).IsMet(RepositoryFiles.Read(_files.ReadRole(role), SignedMetadata.Read), Signatures)
            || SignersOf(role).Any(signer => !SignedMetadata.Read(_files.ReadRole(role)!).Signatures.Any(
                one => one.KeyId == signer.Key.Id)));

    private RoleRule CurrentRule(string role) => RulesOf(role)[0];

    /// <summary>What a snapshot names: the targets, and the delegated roles, as far as they have been signed. A role
    /// that was named once stays: readers would not believe that it is gone.</summary>
    private List<(string Role, long Version, byte[] Bytes)> NamedRoles() =>
    [
        .. from role in Roles().Union(Snapshot?.Meta.Keys ?? []).Order(StringComparer.Ordinal)
           let bytes = _files.ReadRole(role)
           where bytes is not null
           select (role, VersionOf(role, bytes), bytes),
    ];

    /// <summary>The version of targets that a snapshot may name: machines would refuse a catalogue with others.</summary>
    private long VersionOf(string role, byte[] bytes)
    {
        var isSound = RepositoryFiles.Read(bytes, UncheckedMetadata.Targets) is not null && (!IsDelegated(role)
            || RulesOf(role).TrueForAll(rule => rule.IsMet(SignedMetadata.Read(bytes), Signatures)));
        return isSound ? UncheckedMetadata.Targets(bytes).Version : throw new Problem(
            ProblemCode.NotVerified, $"{Path.Combine(folder, $"{role}.json")} is not signed by its maintainer's key",
            "machines would refuse the catalogue", "put back the file as it was published, or take the apps back").ToException();
    }

    /// <summary>The roles of targets: that of the top level, and the delegated ones.</summary>
    internal IEnumerable<string> Roles() =>
        (TargetsOf(TargetsMetadata.TopLevel)?.Delegations.Select(one => one.Name) ?? []).Prepend(TargetsMetadata.TopLevel);

    /// <summary>Adds signatures to what waits; publishing it is another matter.</summary>
    private void Cosign(string role, IReadOnlyList<ISigner> signers) =>
        _files.Prepare(role, RoleText.Signed(_files.Prepared(role)!, signers));

    private void WriteTargets(
        string role, IReadOnlyList<(string Path, FileRule Rule)> files, IReadOnlyList<ISigner> signers,
        (IEnumerable<TrustKey> Keys, IReadOnlyList<Delegation> Roles)? left = null)
    {
        var known = TargetsOf(role);
        var version = (known?.Version ?? 0) + 1;
        var head = new RoleHead(TargetsMetadata.TopLevel, version, now, Periods[TrustRole.Targets]);
        var (others, delegations) = left ?? (known?.Keys.Values ?? [], known?.Delegations ?? []);
        var bytes = RoleText.Signed(RoleText.Targets(head, files, others, delegations), signers);
        if (IsMet(role, bytes)) Publish(role, version, bytes);
        else _files.Prepare(role, bytes);
    }

    private void Publish(string role, long version, byte[] bytes)
    {
        _files.Publish(role, version, bytes);
        _published.Add(role);
    }

    /// <summary>A missing file, or another file than its digest says, is not signed.</summary>
    private void RequireFiles(string role, TargetsMetadata targets)
    {
        foreach (var (path, rule) in targets.Targets)
        {
            var slash = path.LastIndexOf('/') + 1;
            var file = Path.Combine(folder, $"{path[..slash]}{rule.Sha256?.Hex}.{path[slash..]}");
            if (File.Exists(file) && RuleOf(file) == rule) continue;
            throw new Problem(
                ProblemCode.NotVerified, $"{file} is not what {role} {targets.Version} says", "nothing has been signed",
                "copy the folder again from whoever prepared it").ToException();
        }
    }

    /// <summary>
    /// Whether a role is signed again: little of its period is left, or it was signed by a clock that was ahead. Machines refuse
    /// what was signed in their future, and what is good for years would hide all later news.
    /// </summary>
    private bool IsDue(TrustRole role, RoleMetadata metadata) => metadata.Expires - now < Periods[role] * ShareToRenew
        || metadata.Issued > now + RoleMetadata.ClockGrace
        || metadata.Expires - now > Periods[role] + RoleMetadata.ClockGrace;

    private static bool Has(TargetsMetadata targets, List<(string Path, FileRule Rule)> files) =>
        targets.Targets.Count == files.Count && files.All(file => targets.Targets.GetValueOrDefault(file.Path) == file.Rule);

    private static bool IsDelegated(string role) =>
        role is not (TrustWords.Root or TargetsMetadata.TopLevel or TrustWords.Snapshot or TrustWords.Timestamp);

    private static TrustRole KindOf(string role) => role switch
    {
        TrustWords.Root => TrustRole.Root,
        TrustWords.Snapshot => TrustRole.Snapshot,
        TrustWords.Timestamp => TrustRole.Timestamp,
        _ => TrustRole.Targets,
    };

    private static List<(string Path, FileRule Rule)> FilesOf(TargetsMetadata targets) =>
        [.. targets.Targets.OrderBy(file => file.Key, StringComparer.Ordinal).Select(file => (file.Key, file.Value))];

    private static FileRule RuleOf(string path)
    {
        using var file = File.OpenRead(path);
        return new FileRule(file.Length, Sha256Digest.FromBytes(SHA256.HashData(file)), null);
    }
}
