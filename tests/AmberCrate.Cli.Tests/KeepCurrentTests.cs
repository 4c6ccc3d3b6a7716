using AmberCrate.Playhouse;

namespace AmberCrate.Cli.Tests;

public sealed class KeepCurrentTests
{
    [Fact]
    public async Task What_cannot_be_known_is_said_and_words_that_fit_nothing_are_no_empty_machine()
    {
        await using var sandbox = Sandbox.WithCatalogues();
        sandbox.Prepare.Install("cue-ledger", "prompt-margin");
        sandbox.Run("catalogue", "pause", "house").ShouldEnd(0);
        sandbox.Run("list", "prompt").ShouldEnd(0).Out.ShouldContain("Prompt Margin   just now  its catalogue is paused\n");
        var upgrade = sandbox.Run("upgrade", "--yes");
        upgrade.Error.ShouldBe("note: prompt-margin cannot be upgraded: the catalogue house is paused\n");
        upgrade.ShouldExitWith(0);
        foreach (var command in new[] { "list", "due" })
        {
            sandbox.Run(command, "juggler").ShouldFail(3, """
                acrate: no installed app has "juggler" in its id or name
                  next: acrate list shows all
                """);
        }

        sandbox.Run("due", "cue").ShouldPrint(0, "Nothing is due among 1 app · catalogue refreshed just now");
        File.Delete(sandbox["guild", "cue-ledger.appcard.toml"]);
        sandbox.Prepare.Refresh();
        sandbox.Run("export").Error.ShouldBe(
            "note: cue-ledger is in the bundle, and equip may not find it: guild does not offer it any more\n");
    }

    [Fact]
    public async Task A_file_that_its_catalogue_has_exchanged_is_told_and_taken_by_name_only()
    {
        await using var sandbox = Sandbox.WithCatalogues();
        sandbox.Prepare.Install("truss-tally");
        var before = sandbox.RunInstalled("truss-tally", "--version");
        sandbox.ReplaceArtifact(
            "truss-tally",
            ArtifactForge.Pack("tar.gz", ".", [PackedFile.Program("bin/truss-tally", "#!/bin/sh\necho another file\n")]),
            "tar.gz");
        sandbox.Prepare.Refresh();
        const string remark = "changed by the catalogue since it was installed";
        sandbox.Run("list").ShouldEnd(0).Out.ShouldContain(remark);
        var due = sandbox.Run("due", "--check").ShouldEnd(0).Out;
        due.ShouldContain(remark);
        due.ShouldEndWith("next: acrate upgrade truss-tally\n");
        sandbox.Run("about", "truss-tally").ShouldEnd(0).Out.ShouldEndWith("next: acrate upgrade truss-tally\n");
        sandbox.Run("upgrade", "--yes").ShouldPrint(0, """
            Nothing to do: 1 unchanged.
            unchanged  truss-tally 0.3  changed by the catalogue since it was installed: acrate upgrade truss-tally takes the new file
            """);
        sandbox.RunInstalled("truss-tally", "--version").ShouldBe(before);
        var plan = sandbox.Run("upgrade", "truss-tally", "--dry-run", "--json").ShouldEnd(0).Json.GetProperty("items")[0];
        (plan.GetProperty("action").GetString(), plan.GetProperty("to").GetString()).ShouldBe(("replace", "0.3"));
        sandbox.Run("upgrade", "truss-tally", "--yes").ShouldEnd(0);
        sandbox.RunInstalled("truss-tally", "--version").ShouldBe("another file\n");
        sandbox.Run("due").ShouldPrint(0, "Nothing is due among 1 app · catalogues refreshed just now");
        sandbox.Run("uninstall", "truss-tally", "--yes").ShouldEnd(0);
        sandbox.Tree("root").ShouldBeEmpty();
    }

    [Fact]
    public async Task Due_and_upgrade_stay_inside_what_was_asked_for()
    {
        await using var sandbox = Sandbox.WithCatalogues();
        sandbox.Prepare.Install("scrim-paint@4.2.x", "backcloth-render@lts", "cue-ledger", "prompt-margin");
        var none = sandbox.Run("due", "--check").ShouldEnd(0).Out;
        none.ShouldStartWith("Nothing is due among 4 apps\n");
        none.ShouldMatch("\nbackcloth-render +3.6.4 +4.0.0 .*follows @lts\n");
        sandbox.PublishLater();
        sandbox.Run("catalogue", "refresh").ShouldPrint(0, """
            house  nothing new, 5 apps
            guild  1 of 1 part downloaded, 10 apps
            """);
        Squeezed(sandbox.Run("due", "--check").ShouldEnd(10).Out).ShouldBe(Squeezed("""
            3 of 4 apps are due
            app               installed  available  released     behind               download  catalogue  remark
            backcloth-render  3.6.4      3.6.5      N days ago   1 release, 255 days  660 B  guild      follows @lts; 4.1.0 is newer
            cue-ledger        1.5.0      1.6.0      N days ago   1 release, 141 days  1.2 KiB  guild
            scrim-paint       4.2.1      4.2.2      N days ago   1 release, 85 days   772 B  guild      follows @4.2.x; 5.0.0 is newer
            catalogues refreshed just now
            next: acrate upgrade

            """));
        sandbox.Run("list", "scrim").ShouldPrint(0, """
            1 app, 1 outdated
            app          version  newer  follows  catalogue  kind         name         installed
            scrim-paint  4.2.1    4.2.2  @4.2.x   guild      desktop app  Scrim Paint   just now
            catalogues refreshed just now
            """);
        sandbox.Run("upgrade", "cue-ledger", "prompt-margin", "--yes").ShouldEnd(0).Out.ShouldEndWith(
            "1 of 1  done       cue-ledger 1.6.0\n1 done, 1 unchanged.\n");
        sandbox.Run("upgrade", "--yes").ShouldEnd(0).Out.ShouldContain("\n2 done.\nattention  ");
        sandbox.RunInstalled("scrim-paint", "--version").ShouldBe("Scrim Paint 4.2.2\n");
        Squeezed(sandbox.Run("due").ShouldEnd(0).Out).ShouldBe(Squeezed("""
            Nothing is due among 4 apps
            app               installed  available  released    behind             catalogue  remark
            scrim-paint       4.2.2      5.0.0      N days ago  1 release, 6 days  guild      follows @4.2.x
            backcloth-render  3.6.5      4.1.0      N days ago  2 releases, 1 day  guild      follows @lts
            catalogues refreshed just now

            """));
        sandbox.Run("upgrade", "--yes").ShouldPrint(0, """
            Nothing to do: 2 unchanged.
            unchanged  backcloth-render 3.6.5  follows @lts; 4.1.0 is newer
            unchanged  scrim-paint 4.2.2  follows @4.2.x; 5.0.0 is newer
            """);
        var due = sandbox.Run("due", "--json").ShouldEnd(0).Json.GetProperty("apps")[0];
        (due.GetProperty("state").GetString(), due.GetProperty("newer")
            .GetString(), due.GetProperty("days_behind").GetInt32()).ShouldBe(("follows", "5.0.0", 6));
    }

    [Fact]
    public async Task An_upgrade_keeps_the_old_version_on_the_shelf()
    {
        await using var sandbox = Sandbox.WithCatalogues();
        sandbox.Prepare.Install("cue-ledger");
        sandbox.PublishLater();
        sandbox.Run("catalogue", "refresh", "guild").ShouldEnd(0);
        sandbox.Run("upgrade", "--yes").ShouldEnd(0);
        Directory.GetDirectories(sandbox["root", ".local", "share", "amber-crate", "shelf", "cue-ledger"])
            .Select(Path.GetFileName)
            .Order()
            .ShouldBe(["1.5.0+any", "1.6.0+any"]);
    }

    [Fact]
    public async Task Upgrade_names_installed_apps_only()
    {
        await using var sandbox = Sandbox.WithCatalogues();
        sandbox.Run("upgrade", "--yes").ShouldPrint(0, "Nothing to do.");
        sandbox.Run("upgrade", "cue-ledger", "--yes").ShouldRefuse(3, "no installed app is called \"cue-ledger\"");
        sandbox.Run("upgrade", "cue-ledger@1.x", "--yes").ShouldFail(2, """
            acrate: "cue-ledger@1.x" has a version or a catalogue in it
              why: only the name of an installed app is expected
              next: name cue-ledger; acrate install cue-ledger@1.x changes what it follows
            """);
    }

    [Fact]
    public async Task An_app_whose_catalogue_is_dropped_stays_and_says_so()
    {
        await using var sandbox = Sandbox.WithCatalogues();
        sandbox.Prepare.Install("cue-ledger");
        sandbox.Run("catalogue", "drop", "guild")
            .ShouldPrint(0, "Dropped guild. 1 installed app came from it: they stay, and get no upgrades.");
        sandbox.Run("due").ShouldPrint(0, """
            As far as is known, nothing is due among 1 app
            app         installed  catalogue  remark
            cue-ledger  1.5.0      guild      its catalogue is not here any more
            catalogue refreshed just now
            """);
        sandbox.RunInstalled("cue-ledger", "--version").ShouldBe("Cue Ledger 1.5.0\n");
        sandbox.Run("upgrade", "cue-ledger", "--yes").ShouldEnd(3);
        sandbox.Run("about", "Cue Ledger").ShouldEnd(0).Out.ShouldStartWith(
            "Cue Ledger  cue-ledger\nNo catalogue offers it: it came from guild, and the catalogue guild is not here any "
                + "more.\n\nInstalled is 1.5.0\n");
        sandbox.Run("about", "cue-ledger", "--json").ShouldEnd(0).Json.GetProperty("installed")
            .GetProperty("version")
            .GetString()
            .ShouldBe("1.5.0");
        sandbox.Run("uninstall", "cue-ledger", "--yes").ShouldEnd(0);
    }

    /// <summary>A table without its padding, and without how long ago a release came out, which changes daily.</summary>
    private static string Squeezed(string table) => System.Text.RegularExpressions.Regex.Replace(
        System.Text.RegularExpressions.Regex.Replace(
            table, "[0-9]+ days? ago", "N days ago", System.Text.RegularExpressions.RegexOptions.None,
            TimeSpan.FromSeconds(1)),
        " {2,}", "  ", System.Text.RegularExpressions.RegexOptions.None, TimeSpan.FromSeconds(1));
}
