using System.Text.Json;
using AmberCrate.Playhouse;

namespace AmberCrate.Cli.Tests;

public sealed class SeveralCataloguesTests
{
    [Fact]
    public async Task An_app_comes_from_the_most_preferred_catalogue_that_has_a_fitting_release()
    {
        await using var sandbox = Sandbox.WithCatalogues();
        Directory.CreateDirectory(sandbox["loft", "files"]);
        File.Copy(sandbox["guild", "cue-ledger.appcard.toml"], sandbox["loft", "cue-ledger.appcard.toml"]);
        File.Copy(sandbox["guild", "files", "cue-ledger-1.4.0.zip"], sandbox["loft", "files", "cue-ledger-1.4.0.zip"]);
        File.Copy(sandbox["guild", "files", "cue-ledger-1.5.0.zip"], sandbox["loft", "files", "cue-ledger-1.5.0.zip"]);
        File.WriteAllText(sandbox["loft", "cue-ledger.appcard.toml"], File
            .ReadAllText(sandbox["guild", "cue-ledger.appcard.toml"])
            .Replace("name = \"Gaslight Loft\"", "name = \"Gaslight Luft\""));
        sandbox.Run("catalogue", "add", "loft", "loft").ShouldEnd(0);
        PlannedFrom("cue-ledger").ShouldBe("guild");
        PlannedFrom("loft:cue-ledger").ShouldBe("loft");
        sandbox.Run("install", "cue-ledger@1.4.x", "--dry-run").ShouldEnd(0).Out.ShouldContain(
            "follows @1.4.x; also in loft (1.4.0)\n");
        sandbox.Run("install", "loft:cue-ledger", "--dry-run").ShouldEnd(0).Out.ShouldNotContain("also in");
        var other = Planned("cue-ledger").GetProperty("also_in")[0];
        (other.GetProperty("catalogue").GetString(), other.GetProperty("version").GetString()).ShouldBe(("loft", "1.5.0"));
        var digest = sandbox.Run("about", "cue-ledger", "--json").ShouldEnd(0).Json.GetProperty("would_install")
            .GetProperty("sha256")
            .GetString()![..12];
        sandbox.Run("about", "cue-ledger").ShouldEnd(0).Out.ShouldContain($"""
            Other catalogues have cue-ledger too:
            catalogue  version  sha256         review    developer      differs in
            guild      1.5.0    {digest}…  reviewed  Gaslight Loft  (shown above)
            loft       1.5.0    {digest}…  reviewed  Gaslight Luft  developer

            """);

        sandbox.Run("catalogue", "rank", "loft", "house").ShouldEnd(0).Out.Split('\n')
            .Select(line => line.Split(' ')[0])
            .Skip(1)
            .Take(4)
            .ShouldBe(["catalogue", "loft", "house", "guild"]);
        PlannedFrom("cue-ledger").ShouldBe("loft");
        sandbox.Prepare.Install("cue-ledger@1.4.0");
        sandbox.Run("catalogue", "rank", "guild").ShouldEnd(0);
        sandbox.Run("install", "cue-ledger@1.5.0", "--yes").ShouldEnd(0).Out.ShouldContain(
            "upgrade  cue-ledger  1.4.0  1.5.0  loft", Case.Sensitive, "an installed app stays with its catalogue");
        sandbox.Run("install", "guild:cue-ledger", "--yes")
            .ShouldRefuse(4, "cue-ledger is installed from loft, and cannot be changed to guild");
        sandbox.Run("catalogue", "rank", "attic").ShouldRefuse(3, "there is no catalogue \"attic\"");

        string? PlannedFrom(string reference) => Planned(reference).GetProperty("catalogue").GetString();

        JsonElement Planned(string reference) =>
            sandbox.Run("install", reference, "--dry-run", "--json").ShouldEnd(0).Json.GetProperty("items")[0];
    }

    [Fact]
    public async Task A_paused_catalogue_is_not_asked_until_it_is_resumed()
    {
        await using var sandbox = await Sandbox.WithServedGuildAsync();
        sandbox.Prepare.Install("cue-ledger");
        sandbox.Run("catalogue", "pause", "guild").ShouldEnd(0).Out.ShouldMatch(
            "guild +10 +just now +signed until [-0-9]+ +paused +http://guild/ +Stagecraft guild\n");
        sandbox.Server.Requests.Clear();
        sandbox.Run("catalogue", "refresh").ShouldPrint(0, "No catalogue is to be refreshed.");
        sandbox.Run("search", "scrim").ShouldEnd(3);
        sandbox.Run("install", "scrim-paint", "--yes").ShouldFail(3, """
            acrate: no app is called "scrim-paint"
              why: every catalogue is paused
              next: acrate catalogue resume guild
            """);
        sandbox.Run("install", "guild:scrim-paint", "--yes").ShouldFail(3, """
            acrate: the catalogue guild is paused
              next: acrate catalogue resume guild
            """);
        sandbox.Run("due").ShouldEnd(0).Out.ShouldContain("its catalogue is paused");
        sandbox.Run("upgrade", "cue-ledger", "--yes").Out.ShouldContain("the catalogue guild is paused");
        sandbox.Server.Requests.ShouldBeEmpty();
        sandbox.Run("catalogue", "resume", "guild").ShouldEnd(0);
        sandbox.Run("search", "scrim").ShouldEnd(0);
        sandbox.Run("catalogue", "pause", "attic").ShouldRefuse(3, "there is no catalogue \"attic\"");
    }

    [Fact]
    public async Task Old_data_are_refreshed_on_the_way_and_never_fail_the_command()
    {
        await using var sandbox = await Sandbox.WithServedGuildAsync();
        sandbox.Run("search", "scrim").ShouldEnd(0);
        sandbox.Server.Requests.Clear();
        sandbox.Run("search", "scrim").ShouldEnd(0);
        sandbox.Server.Requests.ShouldBeEmpty("data of today are not asked for again");

        sandbox.PublishLater();
        sandbox.Run("catalogue", "build", "guild", "site", "--with-artifacts", "--keys", "keys").ShouldEnd(0);
        sandbox.MakeCatalogueDataOld(days: 3);
        sandbox.Run("search", "scrim", "--offline").ShouldEnd(0).Out.ShouldContain("scrim-paint  4.2.1");
        sandbox.Server.Requests.ShouldBeEmpty("--offline asks nobody");
        sandbox.Run("search", "scrim").ShouldEnd(0).Out.ShouldContain("scrim-paint  5.0.0");

        sandbox.MakeCatalogueDataOld(days: 3);
        sandbox.Server.Faults["timestamp.json"] = new ServerFault.Status(503);
        var result = sandbox.Run("search", "scrim");
        result.ShouldExitWith(0);
        result.Error.ShouldBe(
            "note: guild could not be refreshed, using data refreshed 3 days ago: the server answers 503 Service Unavailable\n");
        result.Out.ShouldEndWith("\ncatalogue refreshed 3 days ago · not refreshed: guild\n");
        sandbox.Run("search", "--catalogue", "guild", "--json").ShouldEnd(0).Json.GetProperty("found")
            .GetInt32()
            .ShouldBe(10, "the only catalogue can be listed too");
        sandbox.Run("search", "!!!", "--catalogue", "guild", "--json").ShouldEnd(3).Json.GetProperty("found")
            .GetInt32()
            .ShouldBe(0);
        sandbox.Server.Requests.Clear();
        sandbox.Run("search", "scrim").ShouldEnd(0);
        sandbox.Server.Requests.ShouldBeEmpty("a catalogue that could not be reached is left alone for a while");

        sandbox.Server.Faults.Clear();
        sandbox.MakeCatalogueDataOld(days: -365);
        sandbox.Run("search", "scrim", "--offline").ShouldEnd(0).Out.ShouldEndWith(
            "\ncatalogue refreshed in the future (wrong clock?)\n");
        sandbox.Run("search", "scrim").ShouldEnd(0).Out.ShouldEndWith(
            "\ncatalogue refreshed just now\n", Case.Sensitive,
            "data that came while the clock was wrong are not new for a year");
        sandbox.Variables["ACRATE_REFRESH_HOURS"] = "soon";
        sandbox.Run("search", "scrim").ShouldRefuse(2, "ACRATE_REFRESH_HOURS is \"soon\"");
    }

    [Fact]
    public async Task Offline_uses_what_is_cached_and_nothing_else()
    {
        await using var sandbox = await Sandbox.WithServedGuildAsync();
        sandbox.Prepare.Install("cue-ledger");
        sandbox.Run("uninstall", "cue-ledger", "--yes").ShouldEnd(0);
        sandbox.Server.Requests.Clear();
        sandbox.Run("install", "cue-ledger", "--yes", "--offline").ShouldEnd(0);
        sandbox.Run("install", "scrim-paint", "--yes", "--offline").ShouldEnd(6).Out.ShouldContain("why: --offline");
        sandbox.Run("catalogue", "refresh", "--offline").ShouldEnd(6).Out.ShouldContain("why: --offline");
        sandbox.Server.Requests.ShouldBeEmpty();
    }

    [Fact]
    public async Task One_catalogue_that_fails_does_not_stop_the_others()
    {
        await using var sandbox = await Sandbox.WithServedGuildAsync();
        sandbox.Run("catalogue", "add", "house", "house").ShouldEnd(0);
        sandbox.Server.Faults["timestamp.json"] = new ServerFault.Status(500);
        File.Delete(sandbox["house", "wardrobe-index.appcard.toml"]);
        var result = sandbox.Run("catalogue", "refresh").ShouldEnd(1);
        result.Out.ShouldContain("guild  not refreshed: the catalogue guild cannot be refreshed\n");
        result.Out.ShouldContain("house  1 of 1 part downloaded, 4 apps\n");
    }

    [Fact]
    public async Task Where_the_preferred_catalogue_has_nothing_for_this_machine_another_one_s_app_is_not_taken_unasked()
    {
        await using var sandbox = Sandbox.WithCatalogues();
        Directory.CreateDirectory(sandbox["other"]);
        File.Copy(sandbox["guild", "catalogue.toml"], sandbox["other", "catalogue.toml"]);
        File.WriteAllText(
            sandbox["other", "cue-ledger.appcard.toml"],
            File.ReadAllText(sandbox["guild", "cue-ledger.appcard.toml"])
                .Replace("any-linux-any", "riscv64-linux-gnu", StringComparison.Ordinal));
        sandbox.Run("catalogue", "add", "other", "other").ShouldEnd(0);
        sandbox.Run("catalogue", "rank", "other").ShouldEnd(0);
        sandbox.Run("install", "cue-ledger", "--yes").ShouldFail(3, """
            acrate: cue-ledger of other has no release for this machine; guild has an app of the same id
              why: it may be another app
              next: acrate install guild:cue-ledger, if that is the one
            """);
        sandbox.Prepare.Install("guild:cue-ledger");
    }
}
