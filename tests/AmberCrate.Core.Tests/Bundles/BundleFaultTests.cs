using AmberCrate.Core.Bundles;
using AmberCrate.Core.Problems;

namespace AmberCrate.Core.Tests.Bundles;

public sealed class BundleFaultTests
{
    [Theory]
    [InlineData("builds_on = [\"../up.bundle.toml\"]", "builds_on: expected a file beside this one")]
    [InlineData("builds_on = [\"/etc/passwd\"]", "builds_on: expected a file beside this one")]
    [InlineData("builds_on = [\"a/../../b\"]", "builds_on: expected a file beside this one")]
    [InlineData("builds_on = [\"http://a/b\"]", "only https: is safe from changes on the way")]
    [InlineData("builds_on = [\"file:///etc/passwd\"]", "only https: is safe")]
    [InlineData("builds_on = [\"https://me:secret@a/b\"]", "builds_on: expected a file beside this one")]
    [InlineData("builds_on = [\"a\\u0000b\"]", "builds_on: expected a file beside this one")]
    [InlineData("drops = [\"a\"]\n[[apps]]\nreference = \"a\"", "drops: a is dropped in line 2 and listed in line 3")]
    [InlineData("when = {}", "when.hosts: expected hosts or platforms, found neither")]
    [InlineData("when = { hosts = [\"a b\"] }", "when.hosts: expected the name of a machine")]
    [InlineData("when = { platforms = [\"amd64\"] }", "when.platforms: expected an AppStream platform triplet")]
    [InlineData("when = { tuesday = true }", "when")]
    [InlineData("sealed = 2026-11-26\n[[apps]]\nreference = \"a\"\nversion = \"1\"", "sealed: a in line 3 has no sha256")]
    [InlineData("sealed = 2026-11-26\nbuilds_on = [\"b\"]", "builds_on: a sealed bundle is complete")]
    [InlineData("[[apps]]\nreference = \"a\"\nsha256 = \"00112233445566778899aabbccddeeff00112233445566778899aabbccddeeff\"",
        "apps[1].sha256: expected only beside version")]
    [InlineData("[[left_behind]]\nname = \"x\"", "left_behind[1].reason: expected a string, but the key is missing")]
    [InlineData("bundle = 2", "not valid TOML")]
    public void A_fault_is_named(string text, string says)
    {
        var faults = new List<FormatFault>();
        BundleReader.Read("bundle = 1\n" + text, "x", faults).ShouldBeNull();
        faults[0].ToString().ShouldContain(says);
    }

    [Fact]
    public void Another_format_is_not_guessed_at()
    {
        var faults = new List<FormatFault>();
        BundleReader.Read("bundle = 2\n", "x", faults).ShouldBeNull();
        faults.ShouldHaveSingleItem().ToString().ShouldBe("x:1: bundle: expected a whole number from 1 to 1, found 2");
    }

    [Fact]
    public void Everything_that_can_be_written_is_read_back()
    {
        const string text = """
            # A bundle: apps to equip a machine with (acrate equip FILE).
            bundle = 1
            title = "all \"of\" it"
            builds_on = ["a.bundle.toml", "guild:b", "https://a.example/c"]
            drops = ["x", "y"]
            when = { hosts = ["a-*"], platforms = ["x86_64-linux-gnu"] }

            [captured]
            on = "a-1"
            date = 2026-11-26
            tool = "acrate 0.1.0"
            all_users = true

            [[catalogues]]
            name = "guild"
            location = "/guild"
            data = 2026-11-25
            cards_sha256 = "00112233445566778899aabbccddeeff00112233445566778899aabbccddeeff"

            [[apps]]
            reference = "guild:a@1.x"
            version = "1.2"
            sha256 = "00112233445566778899aabbccddeeff00112233445566778899aabbccddeeff"
            installer_arguments = ["/S", "a b"]
            platform = "i386-linux-any"
            dependency = true
            observed = true
            when = { hosts = ["b"] }
            pin = { to = "1.2", reason = "r", until = 2026-12-31 }

            # On that machine too, and not installed by equip:

            [[left_behind]]
            name = "chalk"
            version = "2:1.0"
            seen = "/opt/chalk"
            reason = "folder, in no catalogue"

            """;
        var faults = new List<FormatFault>();
        var bundle = BundleReader.Read(text, "x", faults);
        faults.ShouldBeEmpty();
        BundleWriter.Write(bundle!).ShouldBe(text);
    }
}
