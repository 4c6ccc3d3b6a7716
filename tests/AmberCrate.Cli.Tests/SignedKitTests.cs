using System.Text;
using System.Text.RegularExpressions;
using AmberCrate.Tests.Kits;

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
        _sandbox.Prepare.Refresh();
        File.WriteAllText(
            _sandbox["a.bundle.toml"],
            "bundle = 1\n[[apps]]\nreference = \"guild:cue-ledger\"\n[[apps]]\nreference = \"guild:scrim-paint\"\n");
        var made = _sandbox.Run("kit", "make", "a.bundle.toml", "-o", "a.amberkit").ShouldEnd(0);
        made.Out.ShouldNotContain("not signed");
        made.Error.ShouldNotContain("note:");
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
        _sandbox.Prepare.Install("cue-ledger");
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
    [InlineData("no signatures", "trust", null, null, 4, "the kit's apps of guild cannot be checked")]
    public void A_kit_that_somebody_has_changed_is_refused(
        string what, string of, string? before, string? after, int code, string says)
    {
        KitForge.Change(_sandbox["a.amberkit"], _sandbox["b.amberkit"], (layer, content) =>
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
        KitForge.Change(_sandbox["a.amberkit"], _sandbox["b.amberkit"], (layer, content) =>
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
}
