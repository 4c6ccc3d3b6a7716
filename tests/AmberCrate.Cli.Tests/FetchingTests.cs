using System.Security.Cryptography;
using System.Text.Json;
using AmberCrate.Playhouse;

namespace AmberCrate.Cli.Tests;

/// <summary>How artifacts come home, through the program.</summary>
public sealed class FetchingTests
{

    [Fact]
    public async Task Roots_that_share_a_cache_over_its_limit_do_not_take_each_other_s_files()
    {
        await using var sandbox = new Sandbox();
        sandbox.Variables["ACRATE_CACHE_SIZE"] = "1KiB";
        string[] apps = ["scrim-paint", "cue-ledger", "gantry-plot", "truss-tally"], roots = ["one", "two"];
        foreach (var root in roots)
        {
            sandbox.Root = root;
            sandbox.Run("catalogue", "add", "guild", "guild").ShouldEnd(0);
        }

        for (var round = 0; round < 8; round++)
        {
            foreach (var command in new[] { "install", "uninstall" })
            {
                var running = roots.Select(root =>
                {
                    sandbox.Root = root;
                    return sandbox.Start([command, .. apps, "--yes"]);
                }).ToList();
                foreach (var process in running)
                {
                    sandbox.Finish(process, command, "in both").ShouldExitWith(0);
                    process.Dispose();
                }
            }
        }
    }

    private const string Scrim = "scrim-paint-4.2.1.tar.xz";

    [Fact]
    public async Task What_was_prefetched_is_put_on_without_the_network_and_for_every_root()
    {
        await using var sandbox = await Sandbox.WithServedGuildAsync();
        sandbox.Run("prefetch", "scrim-paint", "cue-ledger").ShouldPrint(0, """
            2 to download
            plan      app          to     catalogue  download
            download  scrim-paint  4.2.1  guild         772 B
            download  cue-ledger   1.5.0  guild       1.2 KiB
            2.0 KiB to download
            needs 2.0 KiB; ROOM free on /

            1 of 2  done       scrim-paint 4.2.1
            2 of 2  done       cue-ledger 1.5.0
            2 done.
            """);
        sandbox.Tree("root").ShouldBeEmpty();
        foreach (var file in (string[])[Scrim, "cue-ledger-1.5.0.zip"]) sandbox.Server.Faults[file] = new ServerFault.Status(500);
        sandbox.Run("install", "scrim-paint", "--yes", "--offline").ShouldEnd(0).Out.ShouldContain(
            "\n772 B downloaded already · no administrator rights needed\n");
        sandbox.Root = "other";
        sandbox.Run("catalogue", "add", "guild", sandbox.Server.Address.ToString(), "--trust", "site/root.json").ShouldEnd(0);
        sandbox.Prepare.Install("scrim-paint", "cue-ledger");
    }

    [Fact]
    public async Task What_broke_off_goes_on_in_a_later_run()
    {
        await using var sandbox = await Sandbox.WithServedGuildAsync();
        sandbox.Server.Faults[Scrim] = new ServerFault.CutShort();
        string.Join("|", sandbox.Run("install", "scrim-paint", "--yes", "--verbose").Stages)
            .ShouldContain("1 of 1  waiting      scrim-paint 4.2.1, 1 s: the connection broke");
        sandbox.Server.Faults.Clear();
        var before = sandbox.Server.Requests.Count;
        sandbox.Prepare.Install("scrim-paint");
        sandbox.Server.Requests.Skip(before)
            .Single(request => request.Path.EndsWith(Scrim, StringComparison.Ordinal)).Status.ShouldBe(206);
    }

    [Fact]
    public async Task A_changed_file_is_refused_with_both_digests_and_accepted_by_stating_the_one_that_was_checked()
    {
        await using var sandbox = await Sandbox.WithServedGuildAsync();
        var changed = File.ReadAllBytes(sandbox["guild", "files", "scrim-paint-4.2.0.tar.xz"]);
        sandbox.Server.Faults[Scrim] = new ServerFault.OtherFile(changed);
        var digest = Convert.ToHexStringLower(SHA256.HashData(changed));
        var refused = sandbox.Run("install", "scrim-paint", "--yes").ShouldEnd(5).Out;
        refused.ShouldContain($"; found sha256 {digest}, {changed.Length} bytes\n");
        refused.ShouldContain("--accept-digest scrim-paint=sha256:DIGEST");
        sandbox.Tree("root").ShouldBeEmpty();

        sandbox.Run("install", "scrim-paint", "--yes", "--accept-digest", $"scrim-paint=sha256:{new string('0', 64)}")
            .ShouldEnd(5);
        var accepted =
            sandbox.Run("install", "scrim-paint", "--yes", "--accept-digest", $"scrim-paint=sha256:{digest}").ShouldEnd(0);
        accepted.Out.ShouldContain($"the file of sha256 {digest[..12]}… as you stated");
        sandbox.Run("about", "scrim-paint").ShouldEnd(0).Out.ShouldContain($"sha256 {digest}, which you stated");
        var installed = sandbox.Run("about", "scrim-paint", "--json").ShouldEnd(0).Json.GetProperty("installed");
        (installed.GetProperty("sha256").GetString(), installed.GetProperty("sha256_stated").GetBoolean()).ShouldBe(
            (digest, true));
    }

    [Fact]
    public async Task The_events_of_a_run_are_lines_of_json()
    {
        await using var sandbox = await Sandbox.WithServedGuildAsync();
        sandbox.Server.Faults[Scrim] = new ServerFault.First(1, new ServerFault.Status(503));
        var events = sandbox.Run("install", "scrim-paint", "--yes", "--json").ShouldEnd(0).Out.TrimEnd()
            .Split('\n')
            .Select(line => JsonDocument.Parse(line).RootElement)
            .ToList();
        events.Select(happened => happened.GetProperty("event").GetString()
            + (happened.TryGetProperty("stage", out var stage) ? " " + stage : "")).ShouldBe(
            ["plan", "begins", "stage downloading", "waits", "downloaded", "stage unpacking", "stage placing", "item", "ends"]);
        events[3].GetProperty("why").GetString().ShouldBe("the server answers 503 Service Unavailable");
        events[0].GetProperty("space")[0].GetProperty("needed").GetInt64().ShouldBeGreaterThan(0);
        events[^1].GetProperty("items")[0].GetProperty("outcome").GetString().ShouldBe("done");
    }

    [Theory]
    [InlineData("--downloads", "0", "acrate: --downloads is \"0\"\n  why: expected a whole number from 1 to 64")]
    [InlineData("--bandwidth", "quick",
        "acrate: --bandwidth is \"quick\"\n  why: expected a number of bytes, or of KiB, "
        + "MiB or GiB such as 1.5MiB, or unlimited")]
    [InlineData("--accept-digest", "scrim-paint=sha256:12",
        "acrate: --accept-digest \"scrim-paint=sha256:12\" cannot be used\n  why: expected APP=sha256:DIGEST with an id and 64 "
            + "hexadecimal digits")]
    [InlineData("--pick", null,
        "acrate: cannot offer a choice: there is no terminal\n  why: nothing has been changed\n  next: name what you want, or "
            + "leave out --pick")]
    public async Task What_cannot_be_used_is_said_at_once(string option, string? value, string error)
    {
        await using var sandbox = Sandbox.WithCatalogues();
        sandbox.Run(["install", "scrim-paint", "--yes", option, .. value is null ? (string[])[] : [value]]).ShouldFail(2, error);
    }

    [Fact]
    public async Task Room_that_is_lacking_is_said_before_anything_is_fetched()
    {
        await using var sandbox = Sandbox.WithCatalogues();
        var card = sandbox["guild", "truss-tally.appcard.toml"];
        File.WriteAllText(
            card, File.ReadAllText(card).Replace("installed_size = ", "installed_size = 90000000000", StringComparison.Ordinal));
        sandbox.Prepare.Refresh();
        var refused = sandbox.Run("install", "truss-tally", "--yes");
        refused.ShouldExitWith(9);
        refused.Error.ShouldStartWith("acrate: there is not enough room on /\n  why: ");
        Directory.Exists(sandbox.Downloads).ShouldBeFalse();
    }

    [Fact]
    public async Task Five_thousand_references_are_judged_as_a_whole()
    {
        await using var sandbox = Sandbox.WithCatalogues();
        File.WriteAllLines(
            sandbox["list"], Enumerable.Range(0, 5000).Select(number => number % 2 == 0 ? "scrim-paint" : $"lamp-{number}"));
        var refused = sandbox.Run("install", "--list-file", "list", "--yes");
        refused.ShouldExitWith(3);
        refused.Error.ShouldStartWith("acrate: 2500 of the names cannot be used\n");
        sandbox.Tree("root").ShouldBeEmpty();
    }
}
