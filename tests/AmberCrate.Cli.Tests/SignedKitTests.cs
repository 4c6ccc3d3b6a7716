using System.Formats.Tar;
using System.Security.Cryptography;
using System.Text;
using System.Text.Json.Nodes;
using System.Text.RegularExpressions;

namespace AmberCrate.Cli.Tests;

/// <summary>What a kit says of the apps of a signed catalogue is what was signed on the day of its seal.</summary>
public sealed class SignedKitTests : IAsyncLifetime
{
    private Sandbox _sandbox = null!;

    public async ValueTask InitializeAsync()
    {
        _sandbox = await Sandbox.WithServedGuildAsync();

        // A second layer, and a second root, which a machine that trusts the first one follows.
        _sandbox.PublishLater();
        _sandbox.Run("catalogue", "build", "guild", "site", "--with-artifacts", "--keys", "keys").ShouldEnd(0);
        _sandbox.Run("catalogue", "keys", "rotate", "site", "--role", "targets", "--keys", "keys").ShouldEnd(0);
        _sandbox.Run("catalogue", "refresh").ShouldEnd(0);
        File.WriteAllText(
            _sandbox["a.bundle.toml"],
            "bundle = 1\n[[apps]]\nreference = \"guild:cue-ledger\"\n[[apps]]\nreference = \"guild:scrim-paint\"\n");
        _sandbox.Run("kit", "make", "a.bundle.toml", "-o", "a.amberkit").ShouldEnd(0).Error.ShouldNotContain("note:");
        _sandbox.Root = "bare";
    }

    public ValueTask DisposeAsync() => _sandbox.DisposeAsync();

    [Fact]
    public void A_kit_is_checked_without_a_network_also_long_after_its_seal()
    {
        Directory.Move(_sandbox["site"], _sandbox["gone"]);
        _sandbox.Run("equip", "a.amberkit", "--yes", "--offline").ShouldEnd(0).Out.ShouldEndWith("2 done.\n");
        _sandbox.Run("catalogue", "list").ShouldEnd(0).Out.ShouldContain("signed, root missing");
    }

    [Fact]
    public void A_machine_without_the_catalogue_makes_the_same_kit_of_a_bundle_that_names_its_root()
    {
        _sandbox.Root = "root";
        _sandbox.Run("install", "cue-ledger", "--yes").ShouldEnd(0);
        _sandbox.Run("export", "-o", "c.bundle.toml").ShouldEnd(0);
        _sandbox.Root = "maker";
        _sandbox.Run("kit", "make", "c.bundle.toml", "-o", "c.amberkit").ShouldEnd(0);
        _sandbox.Root = "bare";
        _sandbox.Run("equip", "c.amberkit", "--yes", "--offline").ShouldEnd(0).Out.ShouldEndWith("1 done.\n");
    }

    [Theory]
    [InlineData("a card", "cards", "\"summary\":\"", "\"summary\":\"Not ", 5, "it is another one than was signed")]
    [InlineData("a timestamp", "timestamp.json", "\"version\":", "\"version\":1", 5, "signatures of the timestamp")]
    [InlineData("no root", "root.json", null, null, 5, "no root of the catalogue has the digest")]
    [InlineData("no part", "parts/", null, null, 5, "is missing")]
    [InlineData("no signatures", "trust", null, null, 4, "the kit carries no signatures of guild, which is signed")]
    public void A_kit_that_somebody_has_changed_is_refused(
        string what, string of, string? before, string? after, int code, string says)
    {
        Forge("a.amberkit", "b.amberkit", (layer, content) =>
        {
            var title = $"{layer["mediaType"]} {layer["annotations"]?["org.opencontainers.image.title"]}";
            return !title.Contains(of, StringComparison.Ordinal) ? content
                : before is null ? null
                : Encoding.UTF8.GetBytes(Encoding.UTF8.GetString(content).Replace(before, after, StringComparison.Ordinal));
        });
        _sandbox.Run("equip", "b.amberkit", "--yes").ShouldExitWith(code).Error.ShouldContain(says, Case.Sensitive, what);
        Directory.Exists(_sandbox["bare", ".local", "share", "amber-crate", "shelf", "cue-ledger"]).ShouldBeFalse();
        if (code == 4) _sandbox.Run("equip", "b.amberkit", "--yes", "--unsigned").ShouldExitWith(0);
    }

    /// <summary>What a bundle in a kit leaves out is checked all the same, where the machine trusts the catalogue.</summary>
    [Fact]
    public void A_kit_whose_bundle_hides_its_catalogue_is_refused()
    {
        _sandbox.Root = "root";
        Forge("a.amberkit", "b.amberkit", (layer, content) =>
        {
            var text = Encoding.UTF8.GetString(content);
            return layer["mediaType"]!.GetValue<string>() switch
            {
                "application/vnd.ambercrate.bundle.v1+toml" => Encoding.UTF8.GetBytes(Regex.Replace(
                    text, @"(?m)^\[\[catalogues\]\]\n(?:[a-z_0-9]+ = .*\n)*", "", RegexOptions.ExplicitCapture,
                    TimeSpan.FromSeconds(1))),
                "application/vnd.ambercrate.cards.v1+jsonl" => Encoding.UTF8.GetBytes(
                    text.Replace("\"summary\":\"", "\"summary\":\"Not ", StringComparison.Ordinal)),
                _ => content,
            };
        });
        _sandbox.Run("equip", "b.amberkit", "--yes").ShouldExitWith(5).Error.ShouldContain("it is another one than was signed");
    }

    /// <summary>Writes a kit again with other layers, and the digests that belong to them: null leaves a layer out.</summary>
    private void Forge(string from, string to, Func<JsonObject, byte[], byte[]?> change)
    {
        var files = new Dictionary<string, byte[]>(StringComparer.Ordinal);
        using (var reader = new TarReader(File.OpenRead(_sandbox[from])))
        {
            while (reader.GetNextEntry() is { } entry)
            {
                using var memory = new MemoryStream();
                entry.DataStream?.CopyTo(memory);
                files[entry.Name] = memory.ToArray();
            }
        }

        var index = JsonNode.Parse(files["index.json"])!;
        var manifest = JsonNode.Parse(files[PathOf(index["manifests"]![0]!)])!;
        var layers = new JsonArray();
        foreach (var layer in manifest["layers"]!.AsArray().Select(layer => layer!.DeepClone().AsObject()))
        {
            if (change(layer, files[PathOf(layer)]) is not { } content) continue;
            Put(layer, content);
            layers.Add(layer);
        }

        manifest["layers"] = layers;
        Put(index["manifests"]![0]!.AsObject(), Encoding.UTF8.GetBytes(manifest.ToJsonString()));
        files["index.json"] = Encoding.UTF8.GetBytes(index.ToJsonString());
        using var writer = new TarWriter(File.Create(_sandbox[to]), TarEntryFormat.Ustar);
        foreach (var (name, content) in files)
            writer.WriteEntry(new UstarTarEntry(TarEntryType.RegularFile, name) { DataStream = new MemoryStream(content) });

        void Put(JsonObject descriptor, byte[] content)
        {
            descriptor["digest"] = $"sha256:{Convert.ToHexStringLower(SHA256.HashData(content))}";
            descriptor["size"] = content.Length;
            files[PathOf(descriptor)] = content;
        }

        static string PathOf(JsonNode descriptor) =>
            $"blobs/sha256/{descriptor["digest"]!.GetValue<string>()["sha256:".Length..]}";
    }
}
