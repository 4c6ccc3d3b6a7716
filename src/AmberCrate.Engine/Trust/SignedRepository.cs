using System.Security.Cryptography;
using System.Text;
using System.Text.Json;
using AmberCrate.Core.Problems;
using AmberCrate.Core.Trust;
using AmberCrate.Core.Values;
using AmberCrate.Engine.Host;

namespace AmberCrate.Engine.Trust;

/// <summary>
/// The signed metadata of a published folder, as the maintainer makes them. They are written so that a reader finds at every
/// moment what belongs together: the targets first, then the snapshot that names them, then the timestamp that names the
/// snapshot. Files that others name carry their version in their names and are never changed.
/// </summary>
/// <param name="folder">The published folder.</param>
/// <param name="keys">The maintainer's keys.</param>
/// <param name="now">The time now.</param>
public sealed class SignedRepository(string folder, KeyRing keys, DateTimeOffset now)
{
    private const UnixFileMode Mode =
        UnixFileMode.UserRead | UnixFileMode.UserWrite | UnixFileMode.GroupRead | UnixFileMode.OtherRead;
    private const string SpecVersion = "1.0.31";

    // What is left of the period of a role when it is signed again.
    private const double ShareToRenew = 0.5;

    private static readonly Dictionary<TrustRole, TimeSpan> Periods = new()
    {
        [TrustRole.Root] = TimeSpan.FromDays(400), [TrustRole.Targets] = TimeSpan.FromDays(180),
        [TrustRole.Snapshot] = TimeSpan.FromDays(14), [TrustRole.Timestamp] = TimeSpan.FromDays(7),
    };

    /// <summary>Whether a folder has been signed.</summary>
    public static bool IsSigned(string folder) => File.Exists(Path.Combine(folder, TrustFolder.Root));

    /// <summary>The digest of the root of a folder; null where it is not signed.</summary>
    public static Sha256Digest? RootOf(string folder) => IsSigned(folder)
        ? Sha256Digest.FromBytes(SHA256.HashData(File.ReadAllBytes(Path.Combine(folder, TrustFolder.Root))))
        : null;

    /// <summary>The root of now; null where there is none yet.</summary>
    public byte[]? RootBytes => Bytes(TrustFolder.Root);

    /// <summary>
    /// Signs files as the targets of the folder. Where they are the same as before, only what ends soon is signed again.
    /// </summary>
    /// <param name="files">The files by target path, each with its place in the folder.</param>
    /// <returns>Which roles were signed.</returns>
    /// <exception cref="ProblemException">A key is missing or is not the root's.</exception>
    public IReadOnlyList<TrustRole> Sign(IReadOnlyDictionary<string, string> files)
    {
        var done = new List<TrustRole>();
        var root = Root(done);
        var wanted = files.OrderBy(file => file.Key, StringComparer.Ordinal)
            .Select(file => (file.Key, Rule: RuleOf(Path.Combine(folder, file.Value)))).ToList();
        var known = Read("targets", MetadataOf.Targets);
        var isSame = known is not null && known.Targets.Count == wanted.Count
            && wanted.TrueForAll(file => known.Targets.GetValueOrDefault(file.Key) == file.Rule);
        if (!isSame || IsDue(TrustRole.Targets, known!)) WriteTargets(root, wanted, (known?.Version ?? 0) + 1, done);
        Renew(root, done);
        return done;
    }

    /// <summary>Signs again what ends soon: timestamp and snapshot, and root and targets where their keys are here.</summary>
    /// <returns>Which roles were signed.</returns>
    /// <exception cref="ProblemException">A key is missing, or nothing has been signed here.</exception>
    public IReadOnlyList<TrustRole> Renew()
    {
        if (!IsSigned(folder))
            throw new Problem(
                ProblemCode.NothingMatched, $"{folder} is not a signed catalogue", remedy: NextCommand.Of("catalogue build"))
                .ToException();
        var done = new List<TrustRole>();
        var root = Root(done);
        if (Read("targets", MetadataOf.Targets) is { } targets && IsDue(TrustRole.Targets, targets)
            && keys.For(TrustRole.Targets) is not null)
            WriteTargets(
                root, FilesOf(targets),
                targets.Version + 1, done);
        Renew(root, done);
        return done;
    }

    /// <summary>Replaces keys: the next root names the new ones, and is signed by the old and by the new.</summary>
    /// <param name="name">The name of the key: root, targets or online.</param>
    /// <param name="old">The keys of before, of which the root's must be there.</param>
    /// <returns>Which roles were signed.</returns>
    public IReadOnlyList<TrustRole> Rotate(string name, KeyRing old)
    {
        var (root, _) = RootOrThrow();
        var done = new List<TrustRole>();
        var rules = root.Roles.ToDictionary(pair => pair.Key, pair => pair.Value);
        var known = root.Keys.Values.ToDictionary(key => key.Id);
        foreach (var role in rules.Keys.Where(role => KeyRing.NameFor(role) == name).ToList())
        {
            var (before, after) = (old.Require(role).Key, keys.Require(role).Key);
            if (!rules[role].KeyIds.Contains(before.Id)) throw NotInRoot(role);
            known[after.Id] = after;
            rules[role] = rules[role] with { KeyIds = [.. rules[role].KeyIds.Select(id => id == before.Id ? after.Id : id)] };
        }

        WriteRoot(rules, known, root.Version + 1, [old.Require(TrustRole.Root), keys.Require(TrustRole.Root)], done);
        var (next, _) = RootOrThrow();
        if (Read("targets", MetadataOf.Targets) is { } targets && name == KeyRing.Targets)
            WriteTargets(
                next, FilesOf(targets),
                targets.Version + 1, done);
        if (name != KeyRing.Root && Bytes("timestamp.json") is not null)
        {
            WriteSnapshot(next, done);
            WriteTimestamp(next, done);
        }

        return done;
    }

    private RootMetadata Root(List<TrustRole> done)
    {
        if (RootBytes is null)
        {
            var signers = Enum.GetValues<TrustRole>().ToDictionary(role => role, role => keys.Require(role).Key);
            WriteRoot(
                signers.ToDictionary(pair => pair.Key, pair => new KeyRule([pair.Value.Id], 1)),
                signers.Values.DistinctBy(key => key.Id).ToDictionary(key => key.Id), 1, [keys.Require(TrustRole.Root)], done);
        }

        var (root, _) = RootOrThrow();
        if (IsDue(TrustRole.Root, root) && keys.For(TrustRole.Root) is { } signer)
        {
            WriteRoot(
                root.Roles.ToDictionary(pair => pair.Key, pair => pair.Value), root.Keys.Values.ToDictionary(key => key.Id),
                root.Version + 1, [signer], done);
            (root, _) = RootOrThrow();
        }

        return root;
    }

    private (RootMetadata Root, byte[] Bytes) RootOrThrow()
    {
        try
        {
            var bytes = RootBytes!;
            var root = new TrustedMetadata(bytes, new SignatureCheck(), now).Root;

            // A root that was written before a sudden end is out: machines may have it, so it is the one to go on from.
            while (Bytes($"{root.Version + 1}.root.json") is { } next)
            {
                (bytes, root) = (next, new TrustedMetadata(next, new SignatureCheck(), now).Root);
                AtomicFile.Write(Path.Combine(folder, TrustFolder.Root), bytes, Mode);
            }

            return (root, bytes);
        }
        catch (TrustException fault)
        {
            throw new Problem(
                ProblemCode.NotVerified, $"{Path.Combine(folder, TrustFolder.Root)} cannot be used", fault.Message,
                "put back the file as it was published").ToException(fault);
        }
    }

    private void Renew(RootMetadata root, List<TrustRole> done)
    {
        var (targets, snapshot) = (Read("targets", MetadataOf.Targets)!, Read("snapshot", MetadataOf.Snapshot));
        if (snapshot is null || snapshot.Meta[TargetsMetadata.TopLevel].Version != targets.Version
            || IsDue(TrustRole.Snapshot, snapshot)) WriteSnapshot(root, done);
        snapshot = Read("snapshot", MetadataOf.Snapshot)!;
        var timestamp = Read("timestamp", MetadataOf.Timestamp);
        if (timestamp is null || timestamp.Snapshot.Version != snapshot.Version || IsDue(TrustRole.Timestamp, timestamp))
            WriteTimestamp(root, done);
    }

    private bool IsDue(TrustRole role, RoleMetadata metadata) => metadata.Expires - now < Periods[role] * ShareToRenew;

    private void WriteRoot(
        Dictionary<TrustRole, KeyRule> rules, Dictionary<string, TrustKey> known, long version, IReadOnlyList<ISigner> signers,
        List<TrustRole> done)
    {
        var used = rules.Values.SelectMany(rule => rule.KeyIds).ToHashSet(StringComparer.Ordinal);
        var bytes = Envelope(TrustRole.Root, version, signers, json =>
        {
            json.WriteBoolean("consistent_snapshot", true);
            json.WriteStartObject("keys");
            foreach (var key in known.Values.Where(key => used.Contains(key.Id)).OrderBy(key => key.Id, StringComparer.Ordinal))
            {
                json.WritePropertyName(key.Id);
                json.WriteRawValue(KeyText.Json(key));
            }

            json.WriteEndObject();
            json.WriteStartObject("roles");
            foreach (var (role, rule) in rules.OrderBy(pair => pair.Key))
            {
                json.WriteStartObject(NameOf(role));
                json.WriteStartArray("keyids");
                foreach (var id in rule.KeyIds) json.WriteStringValue(id);
                json.WriteEndArray();
                json.WriteNumber("threshold", rule.Threshold);
                json.WriteEndObject();
            }

            json.WriteEndObject();
        });
        AtomicFile.Write(Path.Combine(folder, $"{version}.root.json"), bytes, Mode);
        AtomicFile.Write(Path.Combine(folder, TrustFolder.Root), bytes, Mode);
        done.Add(TrustRole.Root);
    }

    private void WriteTargets(
        RootMetadata root, IReadOnlyList<(string Path, FileRule Rule)> files, long version, List<TrustRole> done)
    {
        var bytes = Envelope(TrustRole.Targets, version, [SignerOf(root, TrustRole.Targets)], json =>
        {
            json.WriteStartObject("targets");
            foreach (var (path, rule) in files)
            {
                json.WriteStartObject(path);
                WriteRule(json, rule);
                json.WriteEndObject();
            }

            json.WriteEndObject();
        });
        Write("targets", version, bytes);
        done.Add(TrustRole.Targets);
    }

    private void WriteSnapshot(RootMetadata root, List<TrustRole> done)
    {
        var version = (Read("snapshot", MetadataOf.Snapshot)?.Version ?? 0) + 1;
        var bytes = Envelope(TrustRole.Snapshot, version, [SignerOf(root, TrustRole.Snapshot)], json =>
            WriteMeta(json, "targets.json", Read("targets", MetadataOf.Targets)!.Version, Bytes("targets.json")!));
        Write("snapshot", version, bytes);
        done.Add(TrustRole.Snapshot);
    }

    private void WriteTimestamp(RootMetadata root, List<TrustRole> done)
    {
        var version = (Read("timestamp", MetadataOf.Timestamp)?.Version ?? 0) + 1;
        var bytes = Envelope(TrustRole.Timestamp, version, [SignerOf(root, TrustRole.Timestamp)], json =>
            WriteMeta(json, "snapshot.json", Read("snapshot", MetadataOf.Snapshot)!.Version, Bytes("snapshot.json")!));
        AtomicFile.Write(Path.Combine(folder, "timestamp.json"), bytes, Mode);
        done.Add(TrustRole.Timestamp);
    }

    /// <summary>Writes a file under its version, and a copy for the next publication to go on from.</summary>
    private void Write(string name, long version, byte[] bytes)
    {
        AtomicFile.Write(Path.Combine(folder, $"{version}.{name}.json"), bytes, Mode);
        AtomicFile.Write(Path.Combine(folder, $"{name}.json"), bytes, Mode);
    }

    private ISigner SignerOf(RootMetadata root, TrustRole role)
    {
        var signer = keys.Require(role);
        return root.Roles[role].KeyIds.Contains(signer.Key.Id) ? signer : throw NotInRoot(role);
    }

    private ProblemException NotInRoot(TrustRole role) => new Problem(
        ProblemCode.Refused, $"{keys.PathOf(KeyRing.NameFor(role))} is not the key that the root names for {NameOf(role)}",
        "nobody would believe what it signs",
        "bring the key that is named; after a rotation that was cut off it is beside it, as KEY.old.pem").ToException();

    private byte[] Envelope(
        TrustRole role, long version, IReadOnlyList<ISigner> signers, Action<Utf8JsonWriter> write)
    {
        using var stream = new MemoryStream();
        using (var json = new Utf8JsonWriter(stream))
        {
            json.WriteStartObject();
            json.WriteString("_type", NameOf(role));
            json.WriteString("expires", Time(now + Periods[role]));
            json.WriteString("issued", Time(now));
            json.WriteString("spec_version", SpecVersion);
            json.WriteNumber("version", version);
            write(json);
            json.WriteEndObject();
        }

        using var document = JsonDocument.Parse(stream.ToArray());
        var canonical = CanonicalJson.Of(document.RootElement);
        var signatures = signers.DistinctBy(signer => signer.Key.Id).Select(signer =>
            $"{{\"keyid\":\"{signer.Key.Id}\",\"sig\":\"{Convert.ToHexStringLower(signer.Sign(canonical))}\"}}");

        // What is signed is the canonical form; what is written is JSON of the same content, which escapes line ends of keys.
        return Encoding.UTF8.GetBytes(
            $"{{\"signatures\":[{string.Join(',', signatures)}],\"signed\":{document.RootElement.GetRawText()}}}\n");
    }

    private static void WriteMeta(Utf8JsonWriter json, string name, long version, byte[] bytes)
    {
        json.WriteStartObject("meta");
        json.WriteStartObject(name);
        json.WriteNumber("version", version);
        WriteRule(json, new FileRule(bytes.Length, Sha256Digest.FromBytes(SHA256.HashData(bytes)), null));
        json.WriteEndObject();
        json.WriteEndObject();
    }

    private static void WriteRule(Utf8JsonWriter json, FileRule rule)
    {
        json.WriteStartObject("hashes");
        json.WriteString("sha256", rule.Sha256!.Hex);
        json.WriteEndObject();
        json.WriteNumber("length", rule.Length!.Value);
    }

    private static List<(string Path, FileRule Rule)> FilesOf(TargetsMetadata targets) =>
        [.. targets.Targets.OrderBy(file => file.Key, StringComparer.Ordinal).Select(file => (file.Key, file.Value))];

    private static FileRule RuleOf(string path)
    {
        using var file = File.OpenRead(path);
        return new FileRule(file.Length, Sha256Digest.FromBytes(SHA256.HashData(file)), null);
    }

    /// <summary>What a role said last; null where there is nothing that can be read.</summary>
    private T? Read<T>(string name, Func<ReadOnlyMemory<byte>, T> read)
        where T : class
    {
        try
        {
            return Bytes($"{name}.json") is { } bytes ? read(bytes) : null;
        }
        catch (MalformedException)
        {
            return null;
        }
    }

    private byte[]? Bytes(string name) =>
        File.Exists(Path.Combine(folder, name)) ? File.ReadAllBytes(Path.Combine(folder, name)) : null;

    private static string NameOf(TrustRole role) => role.ToString().ToLowerInvariant();

    private static string Time(DateTimeOffset time) => time.UtcDateTime.ToString("yyyy-MM-dd'T'HH:mm:ss'Z'");
}
