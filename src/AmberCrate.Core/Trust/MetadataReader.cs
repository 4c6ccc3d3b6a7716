using System.Globalization;
using System.Security.Cryptography;
using System.Text.Json;
using AmberCrate.Core.Values;

namespace AmberCrate.Core.Trust;

/// <summary>
/// Reads roles strictly: what differs from the specification (The Update Framework 1.0, section 4) is refused,
/// never guessed.
/// </summary>
internal static class MetadataReader
{
    private const int MostKeys = 200, MostRoles = 1000, MostFiles = 1_000_000, MostPatterns = 1000, IdLength = 64;
    private const string SpecVersion = "1.";

    private static readonly string[] DateFormats =
        ["yyyy-MM-dd'T'HH:mm:ss'Z'", "yyyy-MM-dd'T'HH:mm:ss.FFFFFFF'Z'"];

    public static RootMetadata Root(JsonElement signed) => ForeignText.Read("the root", () => ReadRoot(signed));

    public static TimestampMetadata Timestamp(JsonElement signed) =>
        ForeignText.Read("the timestamp", () => ReadTimestamp(signed));

    public static SnapshotMetadata Snapshot(JsonElement signed) => ForeignText.Read("the snapshot", () => ReadSnapshot(signed));

    public static TargetsMetadata Targets(JsonElement signed) => ForeignText.Read("the targets", () => ReadTargets(signed));

    private static RootMetadata ReadRoot(JsonElement signed)
    {
        var head = Head(signed, "root");
        var keys = Keys(Member(signed, "keys"));
        var written = Object(Member(signed, "roles"), "roles");
        var roles = new Dictionary<TrustRole, KeyRule>();
        foreach (var role in Enum.GetValues<TrustRole>())
            roles[role] = Rule(Member(written, role.ToString().ToLowerInvariant()), keys);
        if (written.EnumerateObject().Count() != roles.Count)
            throw new MalformedException("roles: expected root, timestamp, snapshot and targets, and no other");
        var consistent = signed.TryGetProperty("consistent_snapshot", out var said) ? said : default;
        if (consistent.ValueKind is not (JsonValueKind.True or JsonValueKind.False or JsonValueKind.Undefined))
            throw new MalformedException("consistent_snapshot: expected true or false");
        return new RootMetadata
        {
            Version = head.Version, Expires = head.Expires, Issued = head.Issued, Keys = keys, Roles = roles,
            IsConsistent = consistent.ValueKind == JsonValueKind.True,
        };
    }

    private static TimestampMetadata ReadTimestamp(JsonElement signed)
    {
        var head = Head(signed, "timestamp");
        var meta = Object(Member(signed, "meta"), "meta");
        if (meta.EnumerateObject().Count() != 1) throw new MalformedException("meta: expected snapshot.json, and no other");
        return new TimestampMetadata
        {
            Version = head.Version, Expires = head.Expires, Issued = head.Issued,
            Snapshot = Meta(Member(meta, "snapshot.json"), "snapshot.json"),
        };
    }

    private static SnapshotMetadata ReadSnapshot(JsonElement signed)
    {
        const string ending = ".json";
        var head = Head(signed, "snapshot");
        var meta = new Dictionary<string, MetaRule>(StringComparer.Ordinal);
        foreach (var entry in Object(Member(signed, "meta"), "meta").EnumerateObject())
        {
            if (!entry.Name.EndsWith(ending, StringComparison.Ordinal) || meta.Count >= MostRoles)
                throw new MalformedException($"meta: expected at most {MostRoles} names that end in {ending}");
            meta[entry.Name[..^ending.Length]] = Meta(entry.Value, entry.Name);
        }

        return meta.ContainsKey(TargetsMetadata.TopLevel)
            ? new SnapshotMetadata { Version = head.Version, Expires = head.Expires, Issued = head.Issued, Meta = meta }
            : throw new MalformedException("meta: expected targets.json");
    }

    private static TargetsMetadata ReadTargets(JsonElement signed)
    {
        var head = Head(signed, "targets");
        var files = new Dictionary<string, FileRule>(StringComparer.Ordinal);
        foreach (var entry in Object(Member(signed, "targets"), "targets").EnumerateObject())
        {
            if (files.Count >= MostFiles) throw new MalformedException($"targets: expected at most {MostFiles}");
            if (!InsidePath.TryParse(entry.Name, out _))
                throw new MalformedException($"targets: {Shown(entry.Name)} is not a path that stays inside");
            files[entry.Name] = Target(entry.Value, entry.Name);
        }

        var metadata = new TargetsMetadata
        {
            Version = head.Version, Expires = head.Expires, Issued = head.Issued, Targets = files,
        };
        if (!signed.TryGetProperty("delegations", out var delegations) || delegations.ValueKind == JsonValueKind.Null)
            return metadata;
        var keys = Keys(Member(Object(delegations, "delegations"), "keys"));
        List<Delegation> roles = [.. Items(delegations, "roles", MostRoles).Select(role => DelegationOf(role, keys))];
        return roles.DistinctBy(role => role.Name).Count() == roles.Count
            ? metadata with { Keys = keys, Delegations = roles }
            : throw new MalformedException("delegations: expected each role once");
    }

    public static JsonElement Object(JsonElement element, string what) => element.ValueKind == JsonValueKind.Object
        ? element
        : throw new MalformedException($"{what}: expected an object");

    public static JsonElement Member(JsonElement element, string key) => element.TryGetProperty(key, out var value)
        ? value
        : throw new MalformedException($"{key}: the key is missing");

    public static string Text(JsonElement element, string key) =>
        Object(element, key) is var holder && Member(holder, key) is { ValueKind: JsonValueKind.String } value
            ? value.GetString()!
            : throw new MalformedException($"{key}: expected a string");

    public static IEnumerable<JsonElement> Items(JsonElement element, string key, int most)
    {
        if (Member(element, key) is not { ValueKind: JsonValueKind.Array } array)
            throw new MalformedException($"{key}: expected an array");
        return array.GetArrayLength() <= most
            ? array.EnumerateArray()
            : throw new MalformedException($"{key}: expected at most {most}");
    }

    private static (long Version, DateTimeOffset Expires, DateTimeOffset? Issued) Head(JsonElement signed, string type)
    {
        if (Text(signed, "_type") is var found && found != type)
            throw new MalformedException($"_type: expected {type}, found {found}");
        if (!Text(signed, "spec_version").StartsWith(SpecVersion, StringComparison.Ordinal))
            throw new MalformedException("spec_version: expected 1, with any smaller number");
        return (Number(signed, "version", 1), Time(signed, "expires"),
            signed.TryGetProperty("issued", out _) ? Time(signed, "issued") : null);
    }

    private static DateTimeOffset Time(JsonElement element, string key) => DateTimeOffset.TryParseExact(
        Text(element, key), DateFormats, CultureInfo.InvariantCulture,
        DateTimeStyles.AssumeUniversal | DateTimeStyles.AdjustToUniversal, out var time)
        ? time
        : throw new MalformedException($"{key}: expected a time such as 2027-03-31T12:00:00Z");

    private static long Number(JsonElement element, string key, long least) =>
        Member(element, key) is { ValueKind: JsonValueKind.Number } value && value.TryGetInt64(out var number) && number >= least
            && number < long.MaxValue
            ? number
            : throw new MalformedException($"{key}: expected a whole number from {least}");

    private static Dictionary<string, TrustKey> Keys(JsonElement written)
    {
        var keys = new Dictionary<string, TrustKey>(StringComparer.Ordinal);
        foreach (var entry in Object(written, "keys").EnumerateObject())
        {
            if (keys.Count >= MostKeys) throw new MalformedException($"keys: expected at most {MostKeys}");
            var key = new TrustKey(
                entry.Name, Text(entry.Value, "keytype"), Text(entry.Value, "scheme"),
                Text(Object(Member(entry.Value, "keyval"), "keyval"), "public"));
            RequireId(key, entry.Value);
            keys[entry.Name] = key;
        }

        // One key under two ids would count twice.
        return keys.Values.DistinctBy(key => key.Identity).Count() == keys.Count
            ? keys
            : throw new MalformedException("keys: one key is there under two ids");
    }

    /// <summary>An id must be the digest of its key; older programs have made those of one type in another way.</summary>
    private static void RequireId(TrustKey key, JsonElement written)
    {
        var isDigest = key.Id.Length == IdLength && key.Id.All(char.IsAsciiHexDigitLower);
        var fits = key.Id == Convert.ToHexStringLower(SHA256.HashData(CanonicalJson.Write(written)));
        if (!isDigest || (!fits && key.Type != TrustKey.OlderEcdsa))
            throw new MalformedException($"keys: the id {Shown(key.Id)} is not that of its key");
    }

    private static KeyRule Rule(JsonElement written, Dictionary<string, TrustKey> keys)
    {
        List<string> ids = [.. Items(Object(written, "role"), "keyids", MostKeys).Select(item =>
            item.ValueKind == JsonValueKind.String
                ? item.GetString()!
                : throw new MalformedException("keyids: expected strings"))];
        if (ids.Distinct(StringComparer.Ordinal).Count() != ids.Count)
            throw new MalformedException("keyids: expected each id once");
        if (ids.Find(id => !keys.ContainsKey(id)) is { } unknown)
            throw new MalformedException($"keyids: there is no key {Shown(unknown)}");
        var threshold = Number(written, "threshold", 1);
        return threshold <= ids.Count
            ? new KeyRule(ids, (int)threshold)
            : throw new MalformedException($"threshold: {threshold} of {ids.Count} keys can never have signed");
    }

    private static MetaRule Meta(JsonElement written, string name)
    {
        var entry = Object(written, name);
        long? length = entry.TryGetProperty("length", out _) ? Number(entry, "length", 1) : null;
        var (sha256, sha512) = entry.TryGetProperty("hashes", out var hashes) ? Hashes(hashes) : default;
        return new MetaRule(Number(entry, "version", 1), new FileRule(length, sha256, sha512));
    }

    private static FileRule Target(JsonElement written, string name)
    {
        var entry = Object(written, name);
        var (sha256, sha512) = Hashes(Member(entry, "hashes"));
        return new FileRule(Number(entry, "length", 0), sha256, sha512);
    }

    /// <summary>Digests: at least one that can be checked here. A list that is empty, or of unknown kinds only, checks
    /// nothing.</summary>
    private static (Sha256Digest? Sha256, string? Sha512) Hashes(JsonElement written)
    {
        const int longLength = 128;
        Sha256Digest? sha256 = null;
        string? sha512 = null;
        foreach (var entry in Object(written, "hashes").EnumerateObject())
        {
            if (entry.Value.ValueKind != JsonValueKind.String) throw new MalformedException("hashes: expected strings");
            var text = entry.Value.GetString()!;
            if (entry.Name == "sha256") sha256 = Sha256Digest.Parse(text);
            if (entry.Name != "sha512") continue;
            sha512 = text.Length == longLength && text.All(char.IsAsciiHexDigitLower)
                ? text
                : throw new MalformedException("sha512: expected 128 hexadecimal digits");
        }

        return sha256 is not null || sha512 is not null
            ? (sha256, sha512)
            : throw new MalformedException("hashes: expected sha256 or sha512");
    }

    private static Delegation DelegationOf(JsonElement written, Dictionary<string, TrustKey> keys)
    {
        var role = Object(written, "role");
        var name = Text(role, "name");
        if (name is "root" or "timestamp" or "snapshot" or TargetsMetadata.TopLevel || !FileName.TryParse(name, out _))
            throw new MalformedException($"delegations: {Shown(name)} cannot be the name of a role");
        var isTerminating = Member(role, "terminating").ValueKind switch
        {
            JsonValueKind.True => true,
            JsonValueKind.False => false,
            _ => throw new MalformedException("terminating: expected true or false"),
        };
        List<string> paths = Texts(role, "paths"), prefixes = Texts(role, "path_hash_prefixes");
        return paths.Count == 0 != (prefixes.Count == 0)
            ? new Delegation(name, Rule(role, keys), isTerminating, paths, prefixes)
            : throw new MalformedException($"delegations: {name}: expected either paths or path_hash_prefixes");
    }

    private static List<string> Texts(JsonElement element, string key) => element.TryGetProperty(key, out _)
        ? [.. Items(element, key, MostPatterns).Select(item => item.ValueKind == JsonValueKind.String
            ? item.GetString()!
            : throw new MalformedException($"{key}: expected strings"))]
        : [];

    private static string Shown(string text) => text.Length > IdLength ? text[..IdLength] + "…" : text;
}
