using System.Security.Cryptography;
using System.Text;
using System.Text.Json.Nodes;

namespace AmberCrate.Tests.Trust;

/// <summary>
/// Makes and changes the signed metadata of a published folder, for attackers who have broken in and perhaps stolen keys. It
/// shares no code with the program: it has its own canonical form.
/// </summary>
/// <param name="site">The published folder.</param>
/// <param name="keys">The folder of the keys.</param>
internal sealed class MetadataForge(string site, string keys)
{
    /// <summary>What a file says, without its signatures.</summary>
    public JsonObject Read(string file) =>
        JsonNode.Parse(File.ReadAllText(Path.Combine(site, file)))!["signed"]!.DeepClone().AsObject();

    /// <summary>Signs with keys of the folder, each named without its ending, and writes.</summary>
    public void Write(string file, JsonObject content, params string[] signers)
    {
        var bytes = Encoding.UTF8.GetBytes(Canonical(content));
        var signatures = new JsonArray([.. signers.Select(name =>
        {
            using var key = Key(name);
            return new JsonObject
            {
                ["keyid"] = IdOf(PublicOf(name)),
                ["sig"] = Convert.ToHexStringLower(
                    key.SignData(bytes, HashAlgorithmName.SHA256, DSASignatureFormat.Rfc3279DerSequence)),
            };
        })]);
        File.WriteAllText(
            Path.Combine(site, file),
            new JsonObject { ["signatures"] = signatures, ["signed"] = content.DeepClone() }.ToJsonString());
    }

    /// <summary>Makes one more key in the folder.</summary>
    public void MakeKey(string name)
    {
        using var key = ECDsa.Create(ECCurve.NamedCurves.nistP256);
        File.WriteAllText(Path.Combine(keys, name + ".pem"), key.ExportPkcs8PrivateKeyPem());
    }

    /// <summary>A key as metadata have it.</summary>
    public JsonObject PublicOf(string name)
    {
        using var key = Key(name);
        return new JsonObject
        {
            ["keytype"] = "ecdsa", ["scheme"] = "ecdsa-sha2-nistp256",
            ["keyval"] = new JsonObject { ["public"] = key.ExportSubjectPublicKeyInfoPem() + "\n" },
        };
    }

    public static string IdOf(JsonObject key) =>
        Convert.ToHexStringLower(SHA256.HashData(Encoding.UTF8.GetBytes(Canonical(key))));

    /// <summary>What names a file: version, length and digest.</summary>
    public JsonObject RuleOf(string file, long version)
    {
        var bytes = File.ReadAllBytes(Path.Combine(site, file));
        return new JsonObject
        {
            ["version"] = version, ["length"] = bytes.Length,
            ["hashes"] = new JsonObject { ["sha256"] = Convert.ToHexStringLower(SHA256.HashData(bytes)) },
        };
    }

    /// <summary>Changes the timestamp as its key's thief could.</summary>
    public void ChangeTimestamp(Action<JsonObject> change, params string[] signers)
    {
        var content = Read("timestamp.json");
        content["version"] = content["version"]!.GetValue<long>() + 1;
        change(content);
        Write("timestamp.json", content, signers.Length > 0 ? signers : ["online"]);
    }

    /// <summary>Writes the next snapshot, and the timestamp that names it.</summary>
    public void ChangeSnapshot(Action<JsonObject> change, params string[] signers)
    {
        var content = Read("snapshot.json");
        var version = content["version"]!.GetValue<long>() + 1;
        content["version"] = version;
        change(content);
        Write($"{version}.snapshot.json", content, signers.Length > 0 ? signers : ["online"]);
        ChangeTimestamp(timestamp => timestamp["meta"]!["snapshot.json"] = RuleOf($"{version}.snapshot.json", version));
    }

    /// <summary>Writes the next targets, and what names them.</summary>
    public void ChangeTargets(Action<JsonObject> change, params string[] signers)
    {
        var content = Read("targets.json");
        var version = content["version"]!.GetValue<long>() + 1;
        content["version"] = version;
        change(content);
        Write($"{version}.targets.json", content, signers.Length > 0 ? signers : ["targets"]);
        ChangeSnapshot(snapshot => snapshot["meta"]!["targets.json"] = RuleOf($"{version}.targets.json", version));
    }

    /// <summary>Writes the next root.</summary>
    public void ChangeRoot(Action<JsonObject> change, params string[] signers)
    {
        var content = Read("root.json");
        content["version"] = 2;
        change(content);
        Write("2.root.json", content, signers.Length > 0 ? signers : ["root"]);
    }

    /// <summary>The id of the root key that the newest published root names.</summary>
    public string RootKey()
    {
        var newest = Directory.GetFiles(site, "*.root.json").Select(path => Path.GetFileName(path))
            .MaxBy(name => int.Parse(name.Split('.')[0], System.Globalization.CultureInfo.InvariantCulture))!;
        return Read(newest)["roles"]!["root"]!["keyids"]![0]!.GetValue<string>();
    }

    /// <summary>Serves a file under another name too.</summary>
    public void Copy(string from, string to) => File.Copy(Path.Combine(site, from), Path.Combine(site, to));

    private ECDsa Key(string name)
    {
        var key = ECDsa.Create();
        key.ImportFromPem(File.ReadAllText(Path.Combine(keys, name + ".pem")));
        return key;
    }

    private static string Canonical(JsonNode? node) => node switch
    {
        JsonObject entries => "{" + string.Join(',', entries.OrderBy(entry => entry.Key, StringComparer.Ordinal)
            .Select(entry => $"{Quoted(entry.Key)}:{Canonical(entry.Value)}")) + "}",
        JsonArray items => "[" + string.Join(',', items.Select(Canonical)) + "]",
        JsonValue value when value.TryGetValue<string>(out var text) => Quoted(text),
        null => "null",
        _ => node.ToJsonString(),
    };

    private static string Quoted(string text) =>
        $"\"{text.Replace("\\", "\\\\", StringComparison.Ordinal).Replace("\"", "\\\"", StringComparison.Ordinal)}\"";
}
