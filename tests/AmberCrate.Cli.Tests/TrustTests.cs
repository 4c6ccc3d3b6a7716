using System.Diagnostics;
using System.Text.Json.Nodes;
using AmberCrate.Playhouse;
using AmberCrate.Tests.Trust;
using AmberCrate.Tests;

namespace AmberCrate.Cli.Tests;

/// <summary>
/// Attacks on a signed catalogue, after the list of the specification (The Update Framework 1.0, section 1.5.2, and the checks of
/// section 5): whoever has the server, or a key, cannot do more than what the specification leaves them.
/// </summary>
public sealed class TrustTests : IAsyncLifetime
{
    private const string Past = "2020-01-01T00:00:00Z";

    private static readonly Dictionary<string, (Action<MetadataForge> Attack, string Check)> Attacks = new()
    {
        ["timestamp signed by another key"] =
            (forge => forge.ChangeTimestamp(_ => { }, "targets"), "signatures of the timestamp"),
        ["timestamp signed by nobody"] = (
            forge => forge.Write("timestamp.json", With(forge.Read("timestamp.json"), "version", 9)),
            "signatures of the timestamp"),
        ["snapshot signed by another key"] = (forge => forge.ChangeSnapshot(_ => { }, "root"), "signatures of the snapshot"),
        ["targets signed by another key"] = (forge => forge.ChangeTargets(_ => { }, "online"), "signatures of the targets"),
        ["freeze: an expired timestamp"] =
            (forge => forge.ChangeTimestamp(content => content["expires"] = Past), "expiry of the timestamp"),
        ["an expired snapshot"] =
            (forge => forge.ChangeSnapshot(content => content["expires"] = Past), "expiry of the snapshot"),
        ["expired targets"] = (forge => forge.ChangeTargets(content => content["expires"] = Past), "expiry of the targets"),
        ["an expired root"] = (forge => forge.ChangeRoot(content => content["expires"] = Past), "expiry of the root"),
        ["a date that cannot be read"] =
            (forge => forge.ChangeTimestamp(content => content["expires"] = "next week"), "form of the timestamp"),
        ["no date"] = (forge => forge.ChangeTimestamp(content => content.Remove("expires")), "form of the timestamp"),
        ["version 0"] = (forge => forge.ChangeTimestamp(content => content["version"] = 0), "form of the timestamp"),
        ["another type"] =
            (forge => forge.ChangeTimestamp(content => content["_type"] = "snapshot"), "form of the timestamp"),
        ["another specification"] =
            (forge => forge.ChangeTimestamp(content => content["spec_version"] = "2.0.0"), "form of the timestamp"),
        ["an empty list of digests"] = (
            forge => forge.ChangeTimestamp(content => content["meta"]!["snapshot.json"]!["hashes"] = new JsonObject()),
            "form of the timestamp"),
        ["digests of unknown kinds only"] = (
            forge => forge.ChangeTargets(content => Target(content)["hashes"] = new JsonObject { ["md5"] = "00" }),
            "form of the targets"),
        ["a wrong length"] = (
            forge => forge.ChangeTimestamp(content => content["meta"]!["snapshot.json"]!["length"] = 40_000),
            "length of the snapshot"),
        ["rollback of the snapshot"] = (
            forge => forge.ChangeTimestamp(content => content["meta"]!["snapshot.json"] = forge.RuleOf("1.snapshot.json", 1)),
            "snapshot rollback"),
        ["mix and match: a snapshot under another version"] = (
            forge => forge.ChangeTimestamp(content =>
            {
                forge.Copy("2.snapshot.json", "7.snapshot.json");
                content["meta"]!["snapshot.json"] = forge.RuleOf("7.snapshot.json", 7);
            }),
            "mix and match"),
        ["mix and match: targets that the snapshot does not name"] = (
            forge => forge.ChangeSnapshot(content => content["meta"]!.AsObject().Remove("targets.json")), "form of the snapshot"),
        ["rollback of the targets"] = (
            forge => forge.ChangeSnapshot(content => content["meta"]!["targets.json"] = forge.RuleOf("1.targets.json", 1)),
            "targets rollback"),
        ["the entry document is no target"] = (
            forge => forge.ChangeTargets(content => content["targets"]!.AsObject().Remove("catalogue.json")),
            "the entry document is not signed"),
        ["an arbitrary file"] = (
            forge =>
            {
                forge.Copy("root.json", new string('0', 64) + ".catalogue.json");
                forge.ChangeTargets(content => Target(content)["hashes"]!["sha256"] = new string('0', 64));
            },
            "target catalogue.json"),
        ["a root that skips a version"] =
            (forge => forge.ChangeRoot(content => content["version"] = 3), "root rollback"),
        ["a root that stays at its version"] =
            (forge => forge.ChangeRoot(content => content["version"] = 1), "root rollback"),
        ["a root signed by its new key only"] = (forge =>
        {
            forge.MakeKey("new");
            forge.ChangeRoot(content => ReplaceKey(forge, content, "root", "new"), "new");
        }, "by the keys of the root before it"),
        ["a root signed by its old key only"] = (forge =>
        {
            forge.MakeKey("new");
            forge.ChangeRoot(content => ReplaceKey(forge, content, "root", "new"), "root");
        }, "by its own keys"),
        ["a stolen key that was replaced"] = (forge =>
        {
            forge.MakeKey("new");
            forge.ChangeRoot(content =>
            {
                ReplaceKey(forge, content, "timestamp", "new");
                ReplaceKey(forge, content, "snapshot", "new");
            });
            forge.ChangeTimestamp(_ => { }, "online");
        }, "signatures of the timestamp"),
        ["a threshold that is not met"] = (forge =>
        {
            forge.MakeKey("second");
            forge.ChangeRoot(content =>
            {
                AddKey(forge, content, "timestamp", "second");
                content["roles"]!["timestamp"]!["threshold"] = 2;
            });
            forge.ChangeTimestamp(_ => { }, "online");
        }, "2 of 2 keys must have signed, 1 have"),
        ["one key counted twice"] = (forge =>
        {
            forge.MakeKey("second");
            forge.ChangeRoot(content =>
            {
                AddKey(forge, content, "timestamp", "second");
                content["roles"]!["timestamp"]!["threshold"] = 2;
            });
            forge.ChangeTimestamp(_ => { }, "online", "online");
        }, "form of the timestamp"),
        ["a threshold of nothing"] =
            (forge => forge.ChangeRoot(content => content["roles"]!["timestamp"]!["threshold"] = 0), "form of the root"),
        ["a threshold that nobody can meet"] =
            (forge => forge.ChangeRoot(content => content["roles"]!["timestamp"]!["threshold"] = 3), "form of the root"),
        ["an id that is not its key's"] = (forge => forge.ChangeRoot(content =>
        {
            var id = content["roles"]!["timestamp"]!["keyids"]![0]!.GetValue<string>();
            content["keys"]![id] = forge.PublicOf("root");
        }), "form of the root"),
        ["a key of an unknown type"] = (forge => forge.ChangeRoot(content =>
        {
            var key = new JsonObject
            {
                ["keytype"] = "slate", ["scheme"] = "chalk", ["keyval"] = new JsonObject { ["public"] = "white" },
            };
            content["keys"]![MetadataForge.IdOf(key)] = key;
            content["roles"]!["timestamp"]!["keyids"] = new JsonArray(MetadataForge.IdOf(key));
        }), "signatures of the timestamp"),
        ["an unknown role"] = (
            forge => forge.ChangeRoot(content => content["roles"]!["mirror"] = content["roles"]!["root"]!.DeepClone()),
            "form of the root"),
        ["a number that has no canonical form"] =
            (forge => forge.ChangeTimestamp(content => content["extra"] = 1.5), "form of the timestamp"),
    };

    private Sandbox _sandbox = null!;
    private MetadataForge _forge = null!;

    public static TheoryData<string> Names => [.. Attacks.Keys];

    public async ValueTask InitializeAsync()
    {
        _sandbox = await Sandbox.WithServedGuildAsync();
        _forge = new MetadataForge(_sandbox["site"], _sandbox["keys"]);
    }

    public ValueTask DisposeAsync() => _sandbox.DisposeAsync();

    [Theory]
    [MemberData(nameof(Names))]
    public void An_attack_is_refused_and_the_last_good_data_stay(string name)
    {
        _sandbox.PublishLater();
        _sandbox.Run("catalogue", "build", "guild", "site", "--with-artifacts", "--keys", "keys").ShouldEnd(0);
        _sandbox.Prepare.Refresh();
        var (attack, check) = Attacks[name];
        attack(_forge);
        var refused = _sandbox.Run("catalogue", "refresh");
        refused.ShouldExitWith(5);
        refused.Out.ShouldContain("does not verify: ");
        refused.Out.ShouldContain(check);
        refused.Out.ShouldContain("The Update Framework 1.0, 5.");
        refused.Out.ShouldContain(" stay in use\n");
        _sandbox.Run("search", "scrim", "--offline").ShouldEnd(0).Out.ShouldContain("scrim-paint  5.0.0");
    }

    [Fact]
    public void An_old_tree_that_is_played_back_is_refused()
    {
        var old = Directory.GetFiles(_sandbox["site"], "*.json").ToDictionary(path => path, File.ReadAllBytes);
        _sandbox.PublishLater();
        _sandbox.Run("catalogue", "build", "guild", "site", "--with-artifacts", "--keys", "keys").ShouldEnd(0);
        _sandbox.Prepare.Refresh();
        var now = Directory.GetFiles(_sandbox["site"], "*.json").ToDictionary(path => path, File.ReadAllBytes);
        foreach (var (path, bytes) in old) File.WriteAllBytes(path, bytes);
        _sandbox.Run("catalogue", "refresh").ShouldEnd(5).Out.ShouldContain("timestamp rollback");
        foreach (var (path, bytes) in now) File.WriteAllBytes(path, bytes);
        _sandbox.Run("catalogue", "refresh").ShouldPrint(0, "guild  nothing new, 10 apps");
    }

    [Theory]
    [InlineData("timestamp.json", "length of the timestamp")]
    [InlineData("2.root.json", "length of the root")]
    public void Endless_data_are_cut_off(string file, string check)
    {
        _sandbox.Server.Faults[file] = new ServerFault.OtherFile(new byte[4 << 20]);
        if (file == "2.root.json") File.Copy(_sandbox["site", "root.json"], _sandbox["site", file]);
        _sandbox.Run("catalogue", "refresh").ShouldEnd(5).Out.ShouldContain(check);
    }

    [Theory]
    [InlineData("{\"signatures\":[],\"signed\":{},\"signed\":{}}")]
    [InlineData("{\"signed\":{}}")]
    [InlineData("[]")]
    [InlineData("")]
    [InlineData("\u0000")]
    [InlineData("deep")]
    public void What_is_no_metadata_is_refused(string text)
    {
        File.WriteAllText(_sandbox["site", "timestamp.json"], text == "deep" ? new string('[', 10_000) : text);
        _sandbox.Run("catalogue", "refresh").ShouldEnd(5).Out.ShouldContain("form of the timestamp");
    }

    [Fact]
    public void A_byte_of_a_part_that_is_changed_is_refused()
    {
        _sandbox.PublishLater();
        _sandbox.Run("catalogue", "build", "guild", "site", "--with-artifacts", "--keys", "keys").ShouldEnd(0);
        foreach (var part in Directory.GetFiles(_sandbox["site", "parts"]))
        {
            var bytes = File.ReadAllBytes(part);
            bytes[^1] ^= 1;
            File.WriteAllBytes(part, bytes);
        }

        _sandbox.Run("catalogue", "refresh").ShouldEnd(5).Out.ShouldContain("digest of target parts/");
        _sandbox.Run("search", "scrim", "--offline").ShouldEnd(0).Out.ShouldContain("scrim-paint  4.2.1");
    }

    [Fact]
    public void A_thief_who_went_far_ahead_is_shut_out_by_a_new_key()
    {
        _forge.ChangeTimestamp(content => content["version"] = 1_000_000);
        _sandbox.Prepare.Refresh();
        _sandbox.Run("catalogue", "keys", "rotate", "site", "--role", "online", "--keys", "keys").ShouldEnd(0).Out
            .ShouldBe("Published snapshot, timestamp, root in site\n");
        var forged = _forge.Read("timestamp.json");
        forged["version"] = 2;
        _forge.Write("timestamp.json", forged, "online");
        _sandbox.Run("catalogue", "refresh").ShouldPrint(0, "guild  nothing new, 10 apps");
        _sandbox.Run("catalogue", "about", "guild").ShouldEnd(0).Out.ShouldContain("timestamp  2 ");
    }

    [Theory]
    [InlineData("root")]
    [InlineData("targets")]
    [InlineData("online")]
    public void Machines_follow_a_key_that_is_replaced(string key)
    {
        _sandbox.Run("catalogue", "keys", "rotate", "site", "--role", key, "--keys", "keys").ShouldEnd(0);
        File.Exists(_sandbox["keys", $"{key}.old.pem"]).ShouldBeTrue();
        _sandbox.PublishLater();
        _sandbox.Run("catalogue", "build", "guild", "site", "--with-artifacts", "--keys", "keys").ShouldEnd(0);
        _sandbox.Run("catalogue", "refresh").ShouldEnd(0).Out.ShouldContain("downloaded, 10 apps");
        _sandbox.Root = "later";
        _sandbox.Run("catalogue", "add", "guild", _sandbox.Server.Address.ToString(), "--trust", "site/1.root.json").ShouldEnd(0);
    }

    [Fact]
    public void A_catalogue_is_added_only_under_a_root_that_somebody_has_named()
    {
        _sandbox.Root = "other";
        var address = _sandbox.Server.Address.ToString();
        var digest = Convert.ToHexStringLower(
            System.Security.Cryptography.SHA256.HashData(File.ReadAllBytes(_sandbox["site", "root.json"])));
        _sandbox.Run("catalogue", "add", "guild", address).ShouldFail(4, $"""
            acrate: the catalogue guild is signed, and you have not said which root to trust
              why: it offers the root {digest}
              next: compare that with what its maintainer says, then add --trust {digest}
            """);
        _sandbox.Run("catalogue", "add", "guild", address, "--trust", new string('0', 64)).ShouldExitWith(5)
            .Error.ShouldContain("no root of the catalogue has the digest that was agreed");
        _sandbox.Run("catalogue", "keys", "new", "theirs").ShouldEnd(0);
        _sandbox.Run("catalogue", "build", "house", "theirs-site", "--keys", "theirs").ShouldEnd(0);
        _sandbox.Run("catalogue", "add", "guild", address, "--trust", "theirs-site/root.json").ShouldExitWith(5);
        _sandbox.Run("catalogue", "add", "guild", address, "--trust", digest).ShouldEnd(0);
        _sandbox.Run("catalogue", "list").ShouldEnd(0).Out.ShouldContain("signed until ");
    }

    [Fact]
    public void What_is_not_signed_is_used_only_where_a_person_says_so_and_never_over_http()
    {
        _sandbox.Root = "other";
        foreach (var file in Directory.GetFiles(_sandbox["site"], "*root.json")) File.Delete(file);
        _sandbox.Run("catalogue", "add", "guild", _sandbox.Server.Address.ToString(), "--unsigned").ShouldExitWith(4)
            .Error.ShouldContain("over http, anybody on the way can change what it says");
        _sandbox.Run("catalogue", "add", "guild", "site").ShouldExitWith(4).Error.ShouldContain("add --unsigned");
        _sandbox.Run("catalogue", "add", "guild", "site", "--unsigned").ShouldEnd(0);
        _sandbox.Run("catalogue", "list").ShouldEnd(0).Out.ShouldContain("not signed");
        _sandbox.Run("install", "cue-ledger", "--yes").ShouldEnd(0).Out.ShouldContain("\nnot signed: cue-ledger\n");
        _sandbox.Run("list").ShouldEnd(0).Out.ShouldEndWith("guild is not signed\n");
    }

    [Fact]
    public void A_bundle_carries_the_root_and_another_one_is_refused()
    {
        _sandbox.Prepare.Install("cue-ledger");
        _sandbox.Run("export", "-o", "a.bundle.toml").ShouldEnd(0);
        var bundle = File.ReadAllText(_sandbox["a.bundle.toml"]);
        bundle.ShouldContain("root_sha256 = ");
        _sandbox.Root = "bare";
        var line = bundle.Split('\n').Single(line => line.StartsWith("root_sha256 = ", StringComparison.Ordinal)) + "\n";
        File.WriteAllText(_sandbox["b.bundle.toml"], bundle.Replace(
            line, $"root_sha256 = \"{new string('1', 64)}\"\n", StringComparison.Ordinal));
        _sandbox.Run("equip", "b.bundle.toml", "--yes").ShouldExitWith(5);
        File.WriteAllText(_sandbox["c.bundle.toml"], bundle.Replace(line, "", StringComparison.Ordinal));
        _sandbox.Run("equip", "c.bundle.toml", "--yes", "--unsigned").ShouldExitWith(4);
        _sandbox.Run("equip", "a.bundle.toml", "--yes").ShouldEnd(0).Out.ShouldEndWith("1 done.\n");
        _sandbox.Run("catalogue", "list").ShouldEnd(0).Out.ShouldContain("signed until ");
    }

    /// <summary>Who has the online key alone must not make a machine forget which targets it knows.</summary>
    [Fact]
    public void A_snapshot_that_has_expired_is_not_forgotten()
    {
        _sandbox.PublishLater();
        _sandbox.Run("catalogue", "build", "guild", "site", "--with-artifacts", "--keys", "keys").ShouldEnd(0);
        _sandbox.Prepare.Refresh();
        _forge.ChangeSnapshot(content => content["expires"] = Past);
        _sandbox.Run("catalogue", "refresh").ShouldEnd(5).Out.ShouldContain("expiry of the snapshot");
        _forge.ChangeTimestamp(_ => { });
        _sandbox.Run("catalogue", "refresh").ShouldEnd(5).Out.ShouldContain("expiry of the snapshot");
        _forge.ChangeSnapshot(content => content["meta"]!["targets.json"] = _forge.RuleOf("1.targets.json", 1));
        _sandbox.Run("catalogue", "refresh").ShouldEnd(5).Out.ShouldContain("targets rollback");
    }

    /// <summary>Who has the targets key decides what is installed, and not where a mirror writes.</summary>
    [Theory]
    [InlineData("../evil")]
    [InlineData("/tmp/acrate-evil")]
    [InlineData("a/../../evil")]
    public void No_target_leads_out_of_a_folder(string path)
    {
        _forge.ChangeTargets(content => content["targets"]![path] = Target(content).DeepClone());
        var refused = _sandbox.Run("catalogue", "mirror", "guild", "copy/deep");
        refused.ShouldExitWith(5);
        refused.Error.ShouldContain("is not a path that stays inside");
        Directory.Exists(_sandbox["copy"]).ShouldBeFalse();
    }

    [Theory]
    [InlineData("root")]
    [InlineData("targets")]
    [InlineData("online")]
    public void A_rotation_that_ends_suddenly_is_taken_up(string role)
    {
        for (var step = 1; ; step++)
        {
            _sandbox.Variables["ACRATE_END_AT_STEP"] = $"{step}";
            var isDone = _sandbox.Run("catalogue", "keys", "rotate", "site", "--role", role, "--keys", "keys").ExitCode == 0;
            _sandbox.Variables.Remove("ACRATE_END_AT_STEP");
            if (isDone) break;

            // Readers are not disturbed; the next rotation takes up where this one ended.
            _sandbox.Prepare.Refresh();
            step.ShouldBeLessThan(60);
        }

        _sandbox.PublishLater();
        _sandbox.Run("catalogue", "build", "guild", "site", "--with-artifacts", "--keys", "keys").ShouldEnd(0);
        _sandbox.Prepare.Refresh();
    }

    [Fact]
    public void A_folder_of_cards_that_becomes_a_published_one_is_not_believed()
    {
        _sandbox.Root = "other";
        _sandbox.Run("catalogue", "add", "house", "house").ShouldEnd(0);
        Directory.Move(_sandbox["house"], _sandbox["cards"]);
        _sandbox.Run("catalogue", "build", "cards", "house").ShouldEnd(0);
        _sandbox.Run("catalogue", "refresh").ShouldEnd(4).Out.ShouldContain("is a published one now");
    }

    [Fact]
    public void A_stick_verifies_without_a_network_and_an_old_one_only_where_that_is_accepted()
    {
        _sandbox.Root = "stick";
        _forge.ChangeTimestamp(content => content["expires"] = Past);
        _sandbox.Run("catalogue", "add", "guild", "site", "--trust", "site/root.json", "--offline").ShouldExitWith(5)
            .Error.ShouldContain("expiry of the timestamp");
        _sandbox.Run("catalogue", "add", "guild", "site", "--trust", "site/root.json", "--offline", "--accept-stale")
            .ShouldEnd(0);
        _sandbox.Run("list").ShouldEnd(0).Out.ShouldContain("the signatures of guild have expired");
        _sandbox.Run("install", "cue-ledger", "--yes", "--offline").ShouldEnd(0)
            .Out.ShouldContain("\nthe signatures of guild expired 2020-01-01T00:00:00Z: newer releases may be missing\n");
        _sandbox.Run("runs", "1").ShouldEnd(0)
            .Out.ShouldContain("\nthe signatures of guild had expired 2020-01-01T00:00:00Z; its data were used\n");
    }

    [Fact]
    public void What_others_can_write_or_read_is_refused()
    {
        var trust = Directory.GetDirectories(_sandbox["root", ".local", "state", "amber-crate", "trust"]).Single();
        var mode = File.GetUnixFileMode(trust);
        File.SetUnixFileMode(trust, mode | UnixFileMode.OtherWrite);
        _sandbox.Run("catalogue", "refresh").ShouldEnd(5).Out.ShouldContain("can be written by others");
        File.SetUnixFileMode(trust, mode);
        _sandbox.Prepare.Refresh();
        var folder = File.GetUnixFileMode(_sandbox["keys"]);
        File.SetUnixFileMode(_sandbox["keys"], folder | UnixFileMode.OtherWrite);
        _sandbox.Run("catalogue", "keys", "list", "keys").ShouldExitWith(4).Error.ShouldContain("can be changed by others");
        File.SetUnixFileMode(_sandbox["keys"], folder);
        var key = _sandbox["keys", "online.pem"];
        File.SetUnixFileMode(key, UnixFileMode.UserRead | UnixFileMode.UserWrite | UnixFileMode.GroupRead);
        _sandbox.Run("catalogue", "renew", "site", "--keys", "keys").ShouldEnd(0);
        _forge.ChangeTimestamp(content => content["expires"] = "2026-11-27T00:00:00Z");
        _sandbox.Run("catalogue", "renew", "site", "--keys", "keys").ShouldExitWith(4)
            .Error.ShouldContain("can be read by others");
    }

    [Fact]
    public void A_lost_trust_folder_is_not_taken_for_an_unsigned_catalogue()
    {
        Directory.Delete(_sandbox["root", ".local", "state", "amber-crate", "trust"], recursive: true);
        _sandbox.Run("catalogue", "list").ShouldEnd(0).Out.ShouldContain("signed, root missing");
        _sandbox.Prepare.Refresh();
        _sandbox.Run("catalogue", "list").ShouldEnd(0).Out.ShouldContain("signed until ");
    }

    [Fact]
    public void Keys_have_passphrases_types_and_programs_that_hold_them()
    {
        _sandbox.Variables["ACRATE_KEY_PASSPHRASE"] = "open sesame";
        _sandbox.Run("catalogue", "keys", "new", "locked").ShouldEnd(0);
        _sandbox.Run("catalogue", "build", "house", "locked-site", "--keys", "locked").ShouldEnd(0);
        _sandbox.Variables["ACRATE_KEY_PASSPHRASE"] = "wrong";
        _sandbox.Run("catalogue", "build", "house", "other-site", "--keys", "locked").ShouldExitWith(5);
        _sandbox.Variables.Remove("ACRATE_KEY_PASSPHRASE");
        _sandbox.Run("catalogue", "build", "house", "other-site", "--keys", "locked").ShouldExitWith(7);
        _sandbox.Run("catalogue", "keys", "new", "edwards", "--type", "ed25519").ShouldEnd(0);
        _sandbox.Run("catalogue", "build", "house", "ed-site", "--keys", "edwards").ShouldEnd(0);
        _sandbox.Run("catalogue", "add", "house", "ed-site", "--trust", "ed-site/root.json").ShouldEnd(0);
        Assert.SkipUnless(File.Exists("/usr/bin/openssl"), "it takes openssl");
        File.WriteAllText(_sandbox["token"], $"""
            #!/bin/sh
            # Holds the keys in a folder of its own, as a token would: token public|sign ROLE
            key={_sandbox["keys"]}/$2.pem
            case $1 in
                public) /usr/bin/openssl pkey -in $key -pubout ;;
                sign) /usr/bin/openssl dgst -sha256 -sign $key | /usr/bin/od -An -tx1 | /usr/bin/tr -d ' \n' ;;
            esac
            """);
        File.SetUnixFileMode(_sandbox["token"], (UnixFileMode)0b111_101_101);
        _sandbox.Run("catalogue", "build", "house", "token-site", "--keys", "nowhere", "--sign-with", "token").ShouldEnd(0);
        _sandbox.Run("catalogue", "add", "token", "token-site", "--trust", "token-site/root.json").ShouldEnd(0);
    }

    [Fact]
    public void A_mirror_serves_what_was_signed_and_fetches_only_what_is_new()
    {
        _sandbox.Run("catalogue", "mirror", "guild", "copy", "--with-artifacts").ShouldEnd(0).Out.ShouldContain("Fetched ");
        _sandbox.Run("catalogue", "mirror", "guild", "copy", "--with-artifacts").ShouldEnd(0)
            .Out.ShouldStartWith("Fetched 0 files");
        _sandbox.PublishLater();
        _sandbox.Run("catalogue", "keys", "rotate", "site", "--role", "online", "--keys", "keys").ShouldEnd(0);
        _sandbox.Run("catalogue", "build", "guild", "site", "--with-artifacts", "--keys", "keys").ShouldEnd(0);
        _sandbox.Run("catalogue", "mirror", "guild", "copy", "--with-artifacts", "--only", "scrim-paint").ShouldEnd(0);
        File.Exists(_sandbox["copy", "files", "scrim-paint-5.0.0.tar.xz"]).ShouldBeTrue();
        File.Exists(_sandbox["copy", "files", "cue-ledger-1.6.0.zip"]).ShouldBeFalse();
        _sandbox.Root = "other";
        _sandbox.Run("catalogue", "add", "guild", "copy", "--trust", "site/1.root.json").ShouldEnd(0);
        _sandbox.Run("install", "scrim-paint", "--yes").ShouldEnd(0).Out.ShouldContain("scrim-paint 5.0.0");
        _sandbox.Run("catalogue", "add", "house", "house").ShouldEnd(0);
        _sandbox.Run("catalogue", "mirror", "house", "other-copy").ShouldExitWith(4).Error.ShouldContain("is not signed");
    }

    [Fact]
    public void What_was_signed_is_not_published_without_its_keys()
    {
        _sandbox.Run("catalogue", "build", "guild", "site").ShouldFail(4, """
            acrate: site is a signed catalogue
              why: nothing has been published
              next: name the folder of its keys with --keys; or publish to another folder
            """);
        _sandbox.Run("catalogue", "keys", "new", "other").ShouldEnd(0);
        _sandbox.PublishLater();
        _sandbox.Run("catalogue", "build", "guild", "site", "--keys", "other").ShouldExitWith(4)
            .Error.ShouldContain("is not the key that the root names for targets");
        _sandbox.Prepare.Refresh();
    }

    /// <summary>Other people's client reads what is signed here, and this one reads what other people's kit has signed.</summary>
    [Fact]
    public void Other_peoples_clients_and_repositories_fit()
    {
        Assert.SkipUnless(File.Exists("/usr/bin/npm"), "it takes npm");
        foreach (var file in Directory.GetFiles(Path.Combine(BuiltProgram.Repository, "tests", "validators")))
            File.Copy(file, _sandbox[Path.GetFileName(file)]);
        Assert.SkipUnless(Shell("npm ci --silent --no-audit --no-fund").Code == 0, "it takes the npm registry");
        List<string> targets =
        [
            "catalogue.json",
            .. Directory.GetFiles(_sandbox["site", "parts"]).Select(path => "parts/" + Path.GetFileName(path).Split('.', 2)[1]),
        ];
        Shell($"node tuf.mjs read {_sandbox.Server.Address} site/root.json {string.Join(' ', targets)}")
            .ShouldBe((0, string.Join('\n', targets) + "\n"));
        _sandbox.Run("catalogue", "keys", "new", "edwards", "--type", "ed25519").ShouldEnd(0);
        _sandbox.Run("catalogue", "build", "guild", "site/ed", "--keys", "edwards").ShouldEnd(0);
        Shell($"node tuf.mjs read {_sandbox.Server.Address}ed/ site/ed/root.json catalogue.json")
            .ShouldBe((0, "catalogue.json\n"));

        _sandbox.Run("catalogue", "build", "house", "theirs").ShouldEnd(0);
        Shell("node tuf.mjs sign theirs").Code.ShouldBe(0);
        _sandbox.Run("catalogue", "add", "house", "theirs", "--trust", "theirs/1.root.json").ShouldEnd(0);
        _sandbox.Run("catalogue", "about", "house").ShouldEnd(0).Out.ShouldContain("signed until ");
        _sandbox.Run("install", "poster-cut", "--dry-run").ShouldEnd(0);
        (int Code, string Out) Shell(string command)
        {
            using var process = Process.Start(new ProcessStartInfo("/bin/sh", ["-c", command])
            {
                WorkingDirectory = _sandbox.Folder, UseShellExecute = false, RedirectStandardOutput = true,
            })!;
            var output = process.ReadOutput();
            process.EndInTime();
            return (process.ExitCode, output);
        }
    }

    /// <summary>Whenever a refresh or a publication is killed, the next one finds what it needs.</summary>
    [Theory]
    [InlineData("refresh")]
    [InlineData("build")]
    public void A_sudden_end_at_any_step_loses_no_trust(string what)
    {
        for (var step = 1; ; step++)
        {
            Directory.CreateDirectory(_sandbox["guild", "bundles"]);
            File.WriteAllText(
                _sandbox["guild", "bundles", "frame.bundle.toml"],
                $"bundle = 1\ntitle = \"Frame {step}\"\n[[apps]]\nreference = \"cue-ledger\"\n");
            string[] build = ["catalogue", "build", "guild", "site", "--with-artifacts", "--keys", "keys"];
            if (what == "refresh") _sandbox.Run(build).ShouldEnd(0);
            _sandbox.Variables["ACRATE_END_AT_STEP"] = $"{step}";
            var killed = _sandbox.Run(what == "refresh" ? ["catalogue", "refresh"] : build).ExitCode != 0;
            _sandbox.Variables.Remove("ACRATE_END_AT_STEP");

            // Who reads between the killed publication and the next one finds the old catalogue or the new one, whole.
            _sandbox.Prepare.Refresh();
            _sandbox.Run(build).ShouldEnd(0);
            _sandbox.Prepare.Refresh();
            _sandbox.Run("catalogue", "list").ShouldEnd(0).Out.ShouldContain("signed until ");
            if (!killed) break;
            step.ShouldBeLessThan(100);
        }
    }

    private static JsonObject Target(JsonObject content) => content["targets"]!["catalogue.json"]!.AsObject();

    private static JsonObject With(JsonObject content, string key, JsonNode value)
    {
        content[key] = value;
        return content;
    }

    private static void AddKey(MetadataForge forge, JsonObject root, string role, string key)
    {
        var made = forge.PublicOf(key);
        root["keys"]![MetadataForge.IdOf(made)] = made;
        root["roles"]![role]!["keyids"]!.AsArray().Add(MetadataForge.IdOf(made));
    }

    private static void ReplaceKey(MetadataForge forge, JsonObject root, string role, string key)
    {
        root["roles"]![role]!["keyids"] = new JsonArray();
        AddKey(forge, root, role, key);
    }
}
