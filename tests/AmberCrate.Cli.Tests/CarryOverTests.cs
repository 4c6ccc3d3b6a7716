namespace AmberCrate.Cli.Tests;

public sealed class CarryOverTests
{
    [Fact]
    public async Task A_bare_machine_becomes_the_same_and_stays_so()
    {
        await using var sandbox = Sandbox.WithCatalogues();
        sandbox.Prepare.Install("scrim-paint@4.1.x", "cue-ledger", "prompt-margin");
        sandbox.Run("export", "-o", "a.bundle.toml", "--title", "paintframe-01")
            .ShouldPrint(0, "Wrote 3 apps from 2 catalogues to ~/a.bundle.toml");
        sandbox.PublishLater();
        var before = Apps(sandbox);

        sandbox.Root = "other";
        sandbox.Run("equip", "a.bundle.toml", "--dry-run", "--unsigned").ShouldEnd(0).Out.ShouldStartWith("""
            catalogue house will be added: ~/house
            catalogue guild will be added: ~/guild

            3 to install
            plan     app            to     catalogue  download  on disk  remark
            install  cue-ledger     1.5.0  guild
            """.TrimEnd());
        sandbox.Tree("other").ShouldBeEmpty();
        sandbox.Run("catalogue", "list").ShouldEnd(0).Out.ShouldStartWith("No catalogue has been added.");
        sandbox.Run("equip", "a.bundle.toml", "--yes", "--unsigned").ShouldEnd(0).Out.ShouldEndWith("3 done.\n");
        Apps(sandbox).ShouldBe(before);
        sandbox.Run("equip", "a.bundle.toml", "--yes", "--unsigned").ShouldPrint(0, """
            Nothing to do: 3 unchanged.
            unchanged  cue-ledger 1.5.0  1.6.0 is available: acrate upgrade cue-ledger
            unchanged  prompt-margin 2.1.0
            unchanged  scrim-paint 4.1.2  follows @4.1.x; 5.0.0 is newer
            """);
        sandbox.Run("due").ShouldEnd(0).Out.ShouldContain("1 of 3 apps is due");
    }

    [Fact]
    public async Task Equip_shows_what_it_does_by_kind_and_counts_what_it_keeps()
    {
        await using var sandbox = Sandbox.WithCatalogues();
        sandbox.Prepare.Install("scrim-paint@4.1.2", "cue-ledger");
        File.WriteAllText(sandbox["b.bundle.toml"], """
            bundle = 1
            [[apps]]
            reference = "guild:scrim-paint"
            version = "4.2.0" # the cloths of this season
            [[apps]]
            reference = "lamp-black"
            [[apps]]
            reference = "cue-ledger"
            [[apps]]
            reference = "prompt-margin@2.0.0"
            """);
        var size = new FileInfo(sandbox["guild", "files", "scrim-paint-4.2.0.tar.xz"]).Length;
        var shown = sandbox.Run("equip", "b.bundle.toml", "--dry-run").ShouldEnd(1).Out;
        shown.Split('\n')
            .Where(line => line.Length > 0)
            .Select(line => string.Join(' ', line.Split(' ', StringSplitOptions.RemoveEmptyEntries).Take(4)))
            .ShouldBe([
            "1 to install, 1", "plan app from to", "install prompt-margin 2.0.0 house", "upgrade scrim-paint 4.1.2 4.2.0",
            "cannot lamp-black no app", "1.4 KiB to download", "--verbose lists the unchanged,", "commands: prompt-margin",
                "menu entries: prompt-margin", "needs 2.9 KiB; ROOM",
        ]);
        shown.ShouldStartWith("1 to install, 1 to upgrade, 1 unchanged, 1 not offered\n");
        sandbox.Run("equip", "b.bundle.toml", "--dry-run", "--verbose").Out.ShouldContain("\nkeep     cue-ledger     1.5.0");
        sandbox.Run("equip", "b.bundle.toml", "--yes").ShouldEnd(1).Out.ShouldEndWith("2 done, 1 unchanged, 1 not-offered.\n");
        sandbox.Run("equip", "b.bundle.toml", "--yes").ShouldEnd(3).Out.ShouldContain("cannot  lamp-black");
    }

    [Fact]
    public async Task An_export_keeps_the_comments_and_order_of_a_bundle_that_is_there()
    {
        await using var sandbox = Sandbox.WithCatalogues();
        sandbox.Prepare.Install("cue-ledger", "truss-tally");
        File.WriteAllText(
            sandbox["c.bundle.toml"],
            "# Ask the head painter\nbundle = 1\n\n[[apps]]\nreference = \"guild:gantry-plot\" # not "
                + "here\n\n[[apps]]\nreference = "
                + "\"cue-ledger\"\nversion = \"1.4.0\" # old\n");
        sandbox.Run("export", "-o", "c.bundle.toml").ShouldFail(4, """
            acrate: c.bundle.toml exists already
              why: it may have been edited
              next: add --update to bring it up to date and keep comments and order, or name another file
            """);
        sandbox.Run("export", "-o", "c.bundle.toml", "--update").ShouldPrint(0, """
            Wrote 2 apps from 1 catalogue to ~/c.bundle.toml
            In the file but not on this machine, and left as they are: gantry-plot
            """);
        File.ReadAllText(sandbox["c.bundle.toml"]).Replace(sandbox.Folder, "~", StringComparison.Ordinal).ShouldBe("""
            # Ask the head painter
            bundle = 1

            [[apps]]
            reference = "guild:gantry-plot" # not here

            [[apps]]
            reference = "guild:cue-ledger"
            version = "1.5.0" # old

            [[catalogues]]
            name = "guild"
            location = "~/guild"

            [[apps]]
            reference = "guild:truss-tally"
            version = "0.3"

            """);
    }

    [Fact]
    public async Task Versions_can_be_left_out_and_what_cannot_be_carried_is_said()
    {
        await using var sandbox = Sandbox.WithCatalogues();
        sandbox.Prepare.Install("cue-ledger", "prompt-margin");
        sandbox.Run("catalogue", "drop", "house").ShouldEnd(0);
        var export = sandbox.Run("export", "--versions", "follow", "--title", "x");
        export.ShouldExitWith(0);
        export.Error.ShouldBe("""
            note: 1 program cannot be carried; the bundle names them:
            note:   prompt-margin 2.1.0: its catalogue house is not known here any more

            """);
        export.Out.ShouldEndWith("""
            [[apps]]
            reference = "guild:cue-ledger"

            # On that machine too, and not installed by equip:

            [[left_behind]]
            name = "prompt-margin"
            version = "2.1.0"
            reason = "its catalogue house is not known here any more"

            """);
    }

    [Fact]
    public async Task A_bundle_with_faults_changes_nothing()
    {
        await using var sandbox = new Sandbox();
        File.WriteAllText(sandbox["d.bundle.toml"], "bundle = 1\n[[apps]]\nreference = \"a@\"\nversion = 3\n");
        sandbox.Run("equip", "d.bundle.toml", "--yes").ShouldFail(5, """
            acrate: d.bundle.toml has 2 faults
              why: nothing has been changed
              next: correct them; docs/formats/bundle.md describes every key
                d.bundle.toml:3: apps[1].reference: expected an exact version (4.2.0), a series (4.2.x), a range (4..5, 4.., ..5) or a release line (lts), found "", found "a@"
                d.bundle.toml:4: apps[1].version: expected a string, found 3
            """);
        sandbox.Run("equip", "none.bundle.toml", "--yes").ShouldFail(3, "acrate: there is no bundle none.bundle.toml");
        File.WriteAllBytes(sandbox["e.bundle.toml"], [(byte)'a', 0xFF, 0xFE]);
        sandbox.Run("equip", "e.bundle.toml", "--yes").ShouldRefuse(5, "e.bundle.toml has 1 fault");
        sandbox.Tree("root").ShouldBeEmpty();
    }

    [Theory]
    [InlineData("")]
    [InlineData("/")]
    [InlineData("/catalogue.json")]
    public async Task An_address_may_be_written_with_or_without_its_end(string ending)
    {
        await using var sandbox = await Sandbox.WithServedGuildAsync();
        var address = sandbox.Server.Address.ToString().TrimEnd('/');
        File.WriteAllText(
            sandbox["g.bundle.toml"],
            $"bundle = 1\n[[catalogues]]\nname = \"guild\"\nlocation = \"{address}{ending}\"\n[[apps]]\nreference = "
                + $"\"guild:cue-ledger\"\n");
        sandbox.Run("equip", "g.bundle.toml", "--yes").ShouldEnd(0).Out.ShouldEndWith("1 done.\n");
        sandbox.Run("export", "--versions", "follow").Out.ShouldContain("location = \"http://guild/\"");
    }

    [Theory]
    [InlineData(3, "none/a.toml", "why: there is no folder ~/none")]
    [InlineData(9, "guild", "why: cannot rename to ~/guild: Is a directory")]
    public async Task An_export_that_cannot_be_written_says_why(int exitCode, string file, string says)
    {
        await using var sandbox = new Sandbox();
        sandbox.Run("export", "-o", file).ShouldFail(exitCode, $"acrate: {file} cannot be written\n  {says}");
    }

    [Fact]
    public async Task A_catalogue_of_the_same_name_elsewhere_is_refused()
    {
        await using var sandbox = Sandbox.WithCatalogues();
        File.WriteAllText(
            sandbox["f.bundle.toml"],
            "bundle = 1\n[[catalogues]]\nname = \"guild\"\nlocation = \"house\"\n"
            + "[[apps]]\nreference = \"guild:prompt-margin\"\n");
        sandbox.Run("equip", "f.bundle.toml", "--yes").ShouldFail(4, """
            acrate: the catalogue guild has another location here than in the bundle
              why: here it is at ~/guild, in the bundle at ~/house
              next: change the location in the bundle, or remove the catalogue here: acrate catalogue drop guild
            """);
    }

    [Fact]
    public async Task A_bundle_goes_through_standard_streams_and_a_dry_run_ends_as_the_run_would()
    {
        await using var sandbox = Sandbox.WithCatalogues();
        sandbox.Prepare.Install("cue-ledger");
        var bundle = sandbox.Run("export", "-o", "-", "--title", "Paint frame").ShouldEnd(0).Out;
        bundle.ShouldContain("title = \"Paint frame\"");
        bundle.ShouldNotContain("on = \"Paint frame\"");
        File.Exists(sandbox["-"]).ShouldBeFalse();
        sandbox.Run("export", "-o", "more.bundle.toml").ShouldEnd(0);
        File.AppendAllText(sandbox["more.bundle.toml"], "\n[[apps]]\nreference = \"guild:lamp-black\"\n");
        sandbox.Run("equip", "more.bundle.toml", "--dry-run").ShouldExitWith(3).Out.ShouldContain("lamp-black");
        sandbox.Run("equip", "more.bundle.toml", "--yes").ShouldExitWith(3).Out.ShouldContain("lamp-black");
        File.AppendAllText(sandbox["more.bundle.toml"], "\n[[apps]]\nreference = \"guild:gantry-plot\"\n");
        sandbox.Run("equip", "more.bundle.toml", "--dry-run").ShouldExitWith(1).Out.ShouldContain("gantry-plot");
        using var process = sandbox.Start("install", "--list-file", "-", "--yes");
        process.StandardInput.Write("scrim-paint # for the backdrop\n");
        process.StandardInput.Close();
        sandbox.Finish(process, ["install"]).ShouldEnd(0).Out.ShouldEndWith("1 done.\n");
    }

    private static string Apps(Sandbox sandbox) =>
        string.Join('\n', sandbox.Run("list", "--json").ShouldEnd(0).Json.GetProperty("apps").EnumerateArray()
        .Select(app =>
            $"{app.GetProperty("id")} {app.GetProperty("version")} {app.GetProperty("follows")} {app.GetProperty("catalogue")}"));
}
