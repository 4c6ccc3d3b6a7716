using System.Security.Cryptography;
using System.Text;
using System.Text.Json.Nodes;
using AmberCrate.Core.Problems;
using AmberCrate.Core.Trust;
using AmberCrate.Core.Values;
using AmberCrate.Engine.Cataloguing;
using AmberCrate.Engine.Fetching;
using AmberCrate.Engine.Listing;
using AmberCrate.Engine.Trust;
using AmberCrate.Tests.Trust;
using AmberCrate.Tests;

namespace AmberCrate.Engine.Tests.Trust;

/// <summary>What machines believe of signed catalogues, and of what has taken their names.</summary>
public sealed class CatalogueTrustTests : IDisposable
{
    private readonly SignedStage _stage = new();

    public void Dispose() => _stage.Dispose();

    [Fact]
    public async Task What_was_signed_stays_signed_until_the_person_says_otherwise()
    {
        await _stage.PublishAsync();
        await _stage.AddAsync();
        await _stage.InstallAsync("cue-ledger");
        _stage.Drop("guild");

        // Cards that anybody could have written, in the place of what was signed.
        foreach (var file in Directory.GetFiles(_stage["site"], "*.json")) File.Delete(file);
        foreach (var card in Directory.GetFiles(_stage["guild"], "*.toml"))
            File.Copy(card, _stage["site", Path.GetFileName(card)]);
        var refused = await Should.ThrowAsync<ProblemException>(() => _stage.AddAsync(trust: null));
        (refused.Problem.Code, refused.Problem.What).ShouldBe((
            ProblemCode.Refused,
            $"the catalogue guild was signed when it was here before, and is not signed at {_stage["site"]}"));
        await _stage.AddAsync("other", trust: null);
        await _stage.AddAsync(trust: null, allowsUnsigned: true);
        _stage.Drop("guild");
        await _stage.AddAsync(trust: null);
    }

    [Fact]
    public async Task A_catalogue_that_comes_back_is_checked_under_the_root_that_it_had()
    {
        await _stage.PublishAsync();
        await _stage.AddAsync();
        _stage.Drop("guild");
        _stage.ChangeKeys().Rotate("root", null);
        (await _stage.AddAsync(trust: null)).Catalogue.Trust.Root.ShouldBe(_stage.Root);
        _stage.Drop("guild");

        // The keys of an attacker.
        Directory.Delete(_stage["site"], recursive: true);
        _stage.MakeKeys("other");
        await _stage.PublishAsync(keys: "other");
        var refused = await Should.ThrowAsync<ProblemException>(() => _stage.AddAsync(trust: null));
        refused.Problem.Code.ShouldBe(ProblemCode.NotVerified);
        refused.Problem.Remedy.ToString().ShouldContain("add --trust with the new root");
        await _stage.AddAsync();
    }

    [Fact]
    public async Task A_bundle_does_not_bring_a_name_back_without_its_signature()
    {
        await _stage.PublishAsync();
        await _stage.AddAsync();
        _stage.Drop("guild");
        await File.WriteAllTextAsync(
            _stage["a.bundle.toml"],
            $"bundle = 1\n[[catalogues]]\nname = \"guild\"\nlocation = \"{_stage["guild"]}\"\n"
                + "[[apps]]\nreference = \"guild:cue-ledger\"\n");
        var refused = await Should.ThrowAsync<ProblemException>(() => _stage.EquipAsync("a.bundle.toml"));
        _stage.Installed().ShouldBeEmpty();
        refused.Problem.Code.ShouldBe(ProblemCode.Unreachable);
        await _stage.EquipAsync("a.bundle.toml", allowsUnsigned: true);
        _stage.Installed().ShouldBe(["cue-ledger 1.5.0 guild unsigned"]);
    }

    public static TheoryData<string, string> StrangeTexts()
    {
        var data = new TheoryData<string, string>();
        foreach (var file in new[] { "1.root.json", "2.root.json", "timestamp.json", "1.snapshot.json", "1.targets.json" })
        {
            foreach (var text in Strange.Keys) data.Add(file, text);
        }

        return data;
    }

    private static readonly Dictionary<string, byte[]> Strange = new()
    {
        ["half a character as a key"] = Encoding.UTF8.GetBytes("{\"signed\":{\"\\ud800\":1},\"signatures\":[]}"),
        ["half a character as a text"] = Encoding.UTF8.GetBytes("{\"signed\":{\"_type\":\"\\udc00\"},\"signatures\":[]}"),
        ["half a character as a key id"] =
            Encoding.UTF8.GetBytes("{\"signed\":{},\"signatures\":[{\"keyid\":\"\\ud8aa\",\"sig\":\"00\"}]}"),
        ["bytes that are no text"] = [.. "{\"signed\":{\""u8, 0xff, 0xfe, .. "\":1},\"signatures\":[]}"u8],
        ["a key with bytes that are no text"] = [.. "{\""u8, 0xc3, 0x28, .. "\":1}"u8],
        ["nothing"] = [],
        ["a number"] = "7"u8.ToArray(),
        ["very deep"] = Encoding.UTF8.GetBytes(new string('[', 20_000)),
        ["a number that is too large"] = Encoding.UTF8.GetBytes("{\"signed\":{\"version\":1e999},\"signatures\":[]}"),
    };

    [Theory]
    [MemberData(nameof(StrangeTexts))]
    public async Task Strange_bytes_are_malformed_and_stop_no_other_catalogue(string file, string text)
    {
        await _stage.PublishAsync();
        await _stage.AddAsync();
        await _stage.AddAsync("house", "guild", trust: null);
        File.WriteAllBytes(_stage["site", file], Strange[text]);
        foreach (var kept in Directory.GetFiles(_stage["root"], "snapshot.json", SearchOption.AllDirectories)
            .Concat(Directory.GetFiles(_stage["root"], "targets.json", SearchOption.AllDirectories))) File.Delete(kept);
        if (file == "1.root.json") Directory.Delete(_stage["root", ".local", "state", "amber-crate", "trust"], recursive: true);
        var name = file == "1.root.json" ? "root.json" : file;
        File.WriteAllBytes(_stage["site", name], Strange[text]);
        var results = await new RefreshCatalogues(_stage.Stage.Session()).RunAsync([], TestContext.Current.CancellationToken);
        results.Select(result => $"{result.Catalogue.Name} {result.Problem?.Code}").ShouldBe(["guild NotVerified", "house "]);
        results[0].Problem!.Why.ShouldNotContain("System.");
    }

    [Fact]
    public async Task A_clock_that_is_years_ahead_is_noticed_by_machines_and_mended_by_the_maintainer()
    {
        await _stage.PublishAsync();
        await _stage.AddAsync();
        _stage.Ahead = TimeSpan.FromDays(3650);
        _stage.Renew();
        _stage.Ahead = TimeSpan.Zero;
        var refused = (await _stage.RefreshAsync()).Problem.ShouldNotBeNull();
        refused.What.ShouldEndWith("does not verify: clock of the root");
        var renewed = _stage.Renew().Published;
        renewed.Distinct().Order().ShouldBe(["root", "snapshot", "targets", "timestamp"]);
        (await _stage.RefreshAsync()).Problem.ShouldBeNull();
        _stage.Renew().Published.ShouldBeEmpty();
    }

    [Fact]
    public async Task A_clock_within_a_day_is_nothing_to_speak_of()
    {
        _stage.Ahead = TimeSpan.FromHours(23);
        await _stage.PublishAsync();
        _stage.Ahead = TimeSpan.Zero;
        await _stage.AddAsync();
        (await _stage.RefreshAsync()).Problem.ShouldBeNull();
    }

    [Fact]
    public async Task A_maintainer_whose_signatures_have_expired_freezes_their_own_apps_alone()
    {
        await DelegateAsync("glow-lamp", "glow-tube");
        (await _stage.RefreshAsync()).State!.Apps.ShouldBe(12);
        await _stage.InstallAsync("glow-lamp");
        _stage.Stage.PublishLater();
        _stage.Ahead = TimeSpan.FromDays(190);
        _stage.Renew();
        await _stage.PublishAsync();
        var result = await _stage.RefreshAsync();
        result.Problem.ShouldBeNull();
        result.State!.Apps.ShouldBe(12);
        var frozen = result.State.Frozen.ShouldHaveSingleItem();
        (frozen.Maintainer, frozen.Why[..36]).ShouldBe(("lighting", "expiry of the targets of lighting: i"));
        (await _stage.InstallAsync("scrim-paint")).Plan.Items.ShouldHaveSingleItem().To!.Text.ShouldBe("5.0.0");
        (await _stage.InstallAsync("glow-tube")).Report!.Failures.ShouldBeEmpty();

        // Every list says so, and a refresh with nothing new still does.
        (await _stage.RefreshAsync()).State!.Frozen.Count.ShouldBe(1);
        var list = await new ListApps(_stage.Stage.Session()).RunAsync(new ListRequest(), default);
        list.Freshness.Frozen.ShouldHaveSingleItem().Name.Text.ShouldBe("guild");

        // Their apps are up to date again as soon as they have signed.
        await _stage.PublishAsync("theirs", "second", "lighting");
        _stage.Renew();
        (await _stage.RefreshAsync()).State!.Frozen.ShouldBeEmpty();
    }

    [Fact]
    public async Task A_maintainer_with_one_faulty_card_loses_that_card_alone()
    {
        await DelegateAsync("glow-lamp", "glow-tube");
        Fault("\"glow-tube\"", line => line.Replace("\"summary\"", "\"sumary\"", StringComparison.Ordinal));
        var result = await _stage.RefreshAsync();
        result.Problem.ShouldBeNull();
        result.State!.Apps.ShouldBe(11);
        result.State.Frozen.ShouldHaveSingleItem().Why.ShouldStartWith("a faulty card is left out: ");
        (await _stage.RefreshAsync()).State!.Frozen.Count.ShouldBe(1);
        (await _stage.InstallAsync("glow-lamp")).Report!.Failures.ShouldBeEmpty();
    }

    [Theory]
    [InlineData("twice")]
    [InlineData("no part")]
    [InlineData("no document")]
    public async Task Whatever_a_maintainer_does_the_catalogue_itself_goes_on(string what)
    {
        await DelegateAsync("glow-lamp", "glow-tube");
        if (what == "twice") Fault("\"glow-tube\"", line => line + "\n" + line);
        else
        {
            foreach (var file in Directory.GetFiles(_stage["site", "delegated"], what == "no part" ? "*.zst" : "*.json",
                SearchOption.AllDirectories)) File.Delete(file);
        }

        var result = await _stage.RefreshAsync();
        result.Problem.ShouldBeNull();
        result.State!.Apps.ShouldBe(what == "twice" ? 11 : 10);
        result.State.Frozen.ShouldHaveSingleItem().Maintainer.ShouldBe("lighting");
    }

    /// <summary>Some object stores answer 403 for a missing file.</summary>
    [Fact]
    public async Task A_server_that_answers_403_for_what_is_not_there_serves_a_signed_catalogue()
    {
        await _stage.PublishAsync();
        await using var server = await Playhouse.StaticServer.StartAsync(_stage["site"]);
        foreach (var missing in new[] { "2.root.json", "3.root.json" })
            server.Faults[missing] = new Playhouse.ServerFault.Status(403);
        await new AddCatalogue(_stage.Stage.Session()).RunAsync(
            new AddCatalogueRequest(CatalogueName.Parse("guild"), server.Address.ToString()) { Trust = _stage.Root.Hex },
            TestContext.Current.CancellationToken);
        (await _stage.RefreshAsync()).Problem.ShouldBeNull();
    }

    [Theory]
    [InlineData("timestamp.json", 64 << 10)]
    [InlineData("1.snapshot.json", 0)]
    [InlineData("1.targets.json", 0)]
    [InlineData("catalogue.json", 0)]
    public async Task A_text_that_never_ends_is_read_to_its_signed_length(string endless, int most)
    {
        await _stage.PublishAsync();
        var source = new EndlessSource(endless);
        if (most == 0)
            most = (int)new FileInfo(
                Directory.GetFiles(_stage["site"], $"*{endless}").OrderBy(file => file.Length).Last()).Length;
        var address = new Uri(_stage["site"] + "/");
        using var folder = new TemporaryFolder();
        var refresh = new TrustRefresh([address], source, new TrustFolder(folder.Path), _stage.Root, DateTimeOffset.UtcNow);
        await Should.ThrowAsync<TrustException>(async () =>
        {
            var trusted = await refresh.RunAsync(default);
            var targets = new SignedTargets(address, [], source, trusted.Find, trusted.Root.IsConsistent);
            await targets.OpenAsync(new FetchRequest(new Uri(address, "catalogue.json")), default);
        });
        source.Given.ShouldBeLessThanOrEqualTo(most + (64 << 10));
    }

    [Fact]
    public void One_key_that_is_written_in_two_ways_counts_once()
    {
        using var key = ECDsa.Create(ECCurve.NamedCurves.nistP256);
        var pem = key.ExportSubjectPublicKeyInfoPem();
        var point = key.ExportParameters(false).Q;
        byte[] compressed = [.. Convert.FromHexString("3039301306072a8648ce3d020106082a8648ce3d030107032200"),
            (byte)(2 + (point.Y![^1] & 1)), .. point.X!];
        string[] ways =
        [
            pem, pem + "\n", pem.Replace("\n", "\r\n", StringComparison.Ordinal), " " + pem, "a note\n" + pem,
            $"-----BEGIN PUBLIC KEY-----\n{Convert.ToBase64String(key.ExportSubjectPublicKeyInfo())}\n-----END PUBLIC KEY-----",
            PemEncoding.WriteString("PUBLIC KEY", compressed),
        ];
        var keys = ways.Select(text => KeyText.Parse(TrustKey.Ecdsa, TrustKey.EcdsaScheme, text))
            .Append(KeyText.Parse("ecdsa-sha2-nistp256", TrustKey.EcdsaScheme, pem)).DistinctBy(one => one.Id).ToList();
        keys.Count.ShouldBeGreaterThan(6);
        keys.Where(one => one.Public != ways[^1]).Select(one => one.Identity).Distinct().ShouldHaveSingleItem();
        using var content = JsonDocumentOf("{}");
        var canonical = CanonicalJson.Write(content.RootElement);
        var signature = Convert.ToHexStringLower(
            key.SignData(canonical, HashAlgorithmName.SHA256, DSASignatureFormat.Rfc3279DerSequence));
        var signed = SignedMetadata.Read(Encoding.UTF8.GetBytes(new JsonObject
        {
            ["signed"] = new JsonObject(),
            ["signatures"] = new JsonArray(
                [.. keys.Select(one => new JsonObject { ["keyid"] = one.Id, ["sig"] = signature })]),
        }.ToJsonString()));
        new RoleRule(new KeyRule([.. keys.Select(one => one.Id)], 2), keys.ToDictionary(one => one.Id))
            .Count(signed, new SignatureCheck()).ShouldBe(1);

        static System.Text.Json.JsonDocument JsonDocumentOf(string text) => System.Text.Json.JsonDocument.Parse(text);
    }

    [Theory]
    [InlineData(2048, true)]
    [InlineData(3072, true)]
    [InlineData(1024, false)]
    public void Rsa_keys_with_pss_are_read(int bits, bool counts)
    {
        using var key = RSA.Create(bits);
        var trusted = KeyText.Parse(TrustKey.Rsa, TrustKey.RsaScheme, key.ExportSubjectPublicKeyInfoPem());
        var message = "what is signed"u8.ToArray();
        var signature = key.SignData(message, HashAlgorithmName.SHA256, RSASignaturePadding.Pss);
        var check = new SignatureCheck();
        trusted.IsKnown.ShouldBeTrue();
        check.IsValid(trusted, message, signature).ShouldBe(counts);
        check.IsValid(trusted, "another"u8, signature).ShouldBeFalse();
        check.IsValid(trusted, message, key.SignData(message, HashAlgorithmName.SHA256, RSASignaturePadding.Pkcs1))
            .ShouldBeFalse();
        check.IsValid(trusted with { Public = "no key" }, message, signature).ShouldBeFalse();
    }

    /// <summary>OpenSSL signs with the longest salt that fits, as some signers do.</summary>
    [Fact]
    public void Rsa_signatures_of_another_program_are_read()
    {
        Assert.SkipUnless(File.Exists("/usr/bin/openssl"), "it takes openssl");
        using var folder = new TemporaryFolder();
        using var key = RSA.Create(2048);
        File.WriteAllText(folder["key.pem"], key.ExportPkcs8PrivateKeyPem());
        File.WriteAllText(folder["message"], "what is signed");
        foreach (var salt in new[] { "digest", "max" })
        {
            using var signing = System.Diagnostics.Process.Start("/usr/bin/openssl", [
                "dgst", "-sha256", "-sign", folder["key.pem"], "-sigopt", "rsa_padding_mode:pss", "-sigopt",
                $"rsa_pss_saltlen:{salt}", "-out", folder["signature"], folder["message"],
            ]);
            signing.EndInTime();
            new SignatureCheck().IsValid(
                KeyText.Parse(TrustKey.Rsa, TrustKey.RsaScheme, key.ExportSubjectPublicKeyInfoPem()),
                File.ReadAllBytes(folder["message"]), File.ReadAllBytes(folder["signature"])).ShouldBeTrue(salt);
        }
    }

    /// <summary>Leaves apps to another maintainer, who publishes some.</summary>
    private async Task DelegateAsync(params string[] apps)
    {
        await _stage.PublishAsync();
        await _stage.AddAsync();
        _stage.MakeKeys("second");
        _stage.ChangeKeys().Delegate("lighting", _stage["second", "targets.public.pem"], ["glow-*"]);
        Directory.CreateDirectory(_stage["theirs"]);
        Directory.CreateDirectory(_stage["theirs", "files"]);
        foreach (var file in Directory.GetFiles(_stage["guild", "files"], "cue-ledger*"))
            File.Copy(file, _stage["theirs", "files", Path.GetFileName(file)]);
        var card = await File.ReadAllTextAsync(_stage["guild", "cue-ledger.appcard.toml"]);
        foreach (var app in apps)
            await File.WriteAllTextAsync(
                _stage["theirs", $"{app}.appcard.toml"],
                card.Replace("\"cue-ledger\"", $"\"{app}\"", StringComparison.Ordinal));
        await _stage.PublishAsync("theirs", "second", "lighting");
        _stage.Renew();
    }

    /// <summary>Changes a line of a part, and has the other maintainer sign it.</summary>
    private void Fault(string of, Func<string, string> change)
    {
        var folder = _stage["site", "delegated", "lighting"];
        var part = Directory.GetFiles(Path.Combine(folder, "parts")).Single();
        using var unpacking = new ZstdSharp.Decompressor();
        var text = Encoding.UTF8.GetString(unpacking.Unwrap(File.ReadAllBytes(part)));
        var content = Encoding.UTF8.GetBytes(string.Concat(text.Split('\n', StringSplitOptions.RemoveEmptyEntries)
            .Select(line => (line.Contains(of, StringComparison.Ordinal) ? change(line) : line) + "\n")));
        using var packing = new ZstdSharp.Compressor();
        var packed = packing.Wrap(content).ToArray();
        var digest = Convert.ToHexStringLower(SHA256.HashData(packed));
        File.WriteAllBytes(Path.Combine(folder, "parts", $"{digest}.{digest[..16]}.jsonl.zst"), packed);
        var entry = JsonNode.Parse(File.ReadAllText(Path.Combine(folder, "catalogue.json")))!;
        var listed = entry["parts"]![0]!;
        (listed["sha256"], listed["size"], listed["content_size"]) = (digest, packed.Length, content.Length);
        var bytes = Encoding.UTF8.GetBytes(entry.ToJsonString());
        var entryDigest = Convert.ToHexStringLower(SHA256.HashData(bytes));
        File.WriteAllBytes(Path.Combine(folder, $"{entryDigest}.catalogue.json"), bytes);
        var forge = new MetadataForge(_stage["site"], _stage["second"]);
        var targets = forge.Read("lighting.json");
        targets["version"] = targets["version"]!.GetValue<long>() + 1;
        targets["targets"] = new JsonObject
        {
            ["delegated/lighting/catalogue.json"] = Rule(bytes),
            [$"delegated/lighting/parts/{digest[..16]}.jsonl.zst"] = Rule(packed),
        };
        var version = targets["version"]!.GetValue<long>();
        forge.Write($"{version}.lighting.json", targets, "targets");
        File.Copy(_stage["site", $"{version}.lighting.json"], _stage["site", "lighting.json"], overwrite: true);
        _stage.Renew();

        static JsonObject Rule(byte[] content) => new()
        {
            ["length"] = content.Length,
            ["hashes"] = new JsonObject { ["sha256"] = Convert.ToHexStringLower(SHA256.HashData(content)) },
        };
    }

    /// <summary>The files of a folder. One of them never ends.</summary>
    private sealed class EndlessSource(string endless) : IByteSource
    {
        private readonly FileSource _files = new();

        public long Given { get; private set; }

        public async Task<FetchedContent?> OpenAsync(FetchRequest request, CancellationToken cancel) =>
            request.Address.AbsolutePath.EndsWith(endless, StringComparison.Ordinal)
                ? new FetchedContent(new Endless(this), null)
                : await _files.OpenAsync(request, cancel);

        private sealed class Endless(EndlessSource source) : Stream
        {
            public override bool CanRead => true;

            public override bool CanSeek => false;

            public override bool CanWrite => false;

            public override long Length => throw new NotSupportedException();

            public override long Position { get => throw new NotSupportedException(); set => throw new NotSupportedException(); }

            public override int Read(byte[] buffer, int offset, int count)
            {
                if (source.Given > 1L << 26) throw new InvalidOperationException("it would go on for ever");
                source.Given += count;
                return count;
            }

            public override void Flush()
            {
                // Nothing is written.
            }

            public override long Seek(long offset, SeekOrigin origin) => throw new NotSupportedException();

            public override void SetLength(long value) => throw new NotSupportedException();

            public override void Write(byte[] buffer, int offset, int count) => throw new NotSupportedException();
        }
    }
}
