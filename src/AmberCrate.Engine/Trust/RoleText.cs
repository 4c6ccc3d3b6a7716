using System.Security.Cryptography;
using System.Text;
using System.Text.Json;
using AmberCrate.Core.Trust;
using AmberCrate.Core.Values;

namespace AmberCrate.Engine.Trust;

/// <summary>Writes what roles say, after section 4 of The Update Framework 1.0, and signs it.</summary>
internal static class RoleText
{
    private const string SpecVersion = "1.0.31";

    /// <summary>A root.</summary>
    /// <param name="head">What every role says of itself.</param>
    /// <param name="rules">Who must sign each role.</param>
    /// <param name="keys">The keys, by id; those that nobody uses are left out.</param>
    public static byte[] Root(
        RoleHead head, IReadOnlyDictionary<TrustRole, KeyRule> rules, IReadOnlyDictionary<string, TrustKey> keys)
    {
        var used = rules.Values.SelectMany(rule => rule.KeyIds).ToHashSet(StringComparer.Ordinal);
        return Write(head, json =>
        {
            json.WriteBoolean("consistent_snapshot", true);
            Write(json, keys.Values.Where(key => used.Contains(key.Id)));
            json.WriteStartObject("roles");
            foreach (var (role, rule) in rules.OrderBy(pair => pair.Key))
            {
                json.WriteStartObject(NameOf(role));
                Write(json, rule);
                json.WriteEndObject();
            }

            json.WriteEndObject();
        });
    }

    /// <summary>Targets.</summary>
    /// <param name="head">What every role says of itself.</param>
    /// <param name="files">The files.</param>
    /// <param name="keys">The keys of delegations.</param>
    /// <param name="delegations">To whom it leaves targets.</param>
    public static byte[] Targets(
        RoleHead head, IReadOnlyList<(string Path, FileRule Rule)> files, IEnumerable<TrustKey> keys,
        IReadOnlyList<Delegation> delegations) => Write(head, json =>
        {
            if (delegations.Count > 0)
            {
                json.WriteStartObject("delegations");
                Write(json, keys);
                json.WriteStartArray("roles");
                foreach (var delegation in delegations)
                {
                    json.WriteStartObject();
                    Write(json, delegation.Keys);
                    json.WriteString("name", delegation.Name);
                    json.WriteStartArray("paths");
                    foreach (var path in delegation.Paths) json.WriteStringValue(path);
                    json.WriteEndArray();
                    json.WriteBoolean("terminating", delegation.IsTerminating);
                    json.WriteEndObject();
                }

                json.WriteEndArray();
                json.WriteEndObject();
            }

            json.WriteStartObject("targets");
            foreach (var (path, rule) in files)
            {
                json.WriteStartObject(path);
                Write(json, rule);
                json.WriteEndObject();
            }

            json.WriteEndObject();
        });

    /// <summary>A snapshot or a timestamp: what the files that it names are.</summary>
    /// <param name="head">What every role says of itself.</param>
    /// <param name="files">The files: role, version and bytes.</param>
    public static byte[] Meta(RoleHead head, IEnumerable<(string Role, long Version, byte[] Bytes)> files) => Write(head, json =>
    {
        json.WriteStartObject("meta");
        foreach (var (role, version, bytes) in files)
        {
            json.WriteStartObject($"{role}.json");
            json.WriteNumber("version", version);
            Write(json, new FileRule(bytes.Length, Sha256Digest.FromBytes(SHA256.HashData(bytes)), null));
            json.WriteEndObject();
        }

        json.WriteEndObject();
    });

    /// <summary>Adds signatures; one of the same key is replaced.</summary>
    /// <param name="metadata">The metadata, with the signatures that they have.</param>
    /// <param name="signers">Who signs.</param>
    public static byte[] Signed(byte[] metadata, IEnumerable<ISigner> signers)
    {
        var signed = SignedMetadata.Read(metadata);
        var signatures = signed.Signatures.ToDictionary(one => one.KeyId, one => one.Signature, StringComparer.Ordinal);
        foreach (var signer in signers) signatures[signer.Key.Id] = signer.Sign(signed.Canonical);
        return Text(signed.Content.GetRawText(), signatures);
    }

    /// <summary>The name of a role.</summary>
    public static string NameOf(TrustRole role) => role.ToString().ToLowerInvariant();

    private static byte[] Write(RoleHead head, Action<Utf8JsonWriter> write)
    {
        using var stream = new MemoryStream();
        using (var json = new Utf8JsonWriter(stream))
        {
            json.WriteStartObject();
            json.WriteString("_type", head.Type);
            json.WriteString("expires", Time(head.Now + head.Period));
            json.WriteString("issued", Time(head.Now));
            json.WriteString("spec_version", SpecVersion);
            json.WriteNumber("version", head.Version);
            write(json);
            json.WriteEndObject();
        }

        return Text(Encoding.UTF8.GetString(stream.ToArray()), []);
    }

    /// <summary>
    /// What is signed is the canonical form; what is written is JSON of the same content, which escapes line ends of keys.
    /// </summary>
    private static byte[] Text(string signed, Dictionary<string, byte[]> signatures) => Encoding.UTF8.GetBytes(
        $"{{\"signatures\":[{string.Join(',', signatures.OrderBy(one => one.Key, StringComparer.Ordinal).Select(one =>
            $"{{\"keyid\":\"{one.Key}\",\"sig\":\"{Convert.ToHexStringLower(one.Value)}\"}}"))}],\"signed\":{signed}}}\n");

    private static void Write(Utf8JsonWriter json, IEnumerable<TrustKey> keys)
    {
        json.WriteStartObject("keys");
        foreach (var key in keys.OrderBy(key => key.Id, StringComparer.Ordinal))
        {
            json.WritePropertyName(key.Id);
            json.WriteRawValue(KeyText.Json(key));
        }

        json.WriteEndObject();
    }

    private static void Write(Utf8JsonWriter json, KeyRule rule)
    {
        json.WriteStartArray("keyids");
        foreach (var id in rule.KeyIds) json.WriteStringValue(id);
        json.WriteEndArray();
        json.WriteNumber("threshold", rule.Threshold);
    }

    private static void Write(Utf8JsonWriter json, FileRule rule)
    {
        json.WriteStartObject("hashes");
        json.WriteString("sha256", rule.Sha256!.Hex);
        json.WriteEndObject();
        json.WriteNumber("length", rule.Length!.Value);
    }

    private static string Time(DateTimeOffset time) => time.UtcDateTime.ToString("yyyy-MM-dd'T'HH:mm:ss'Z'");
}
