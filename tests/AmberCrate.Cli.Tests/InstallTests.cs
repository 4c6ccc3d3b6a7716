using System.Runtime.InteropServices;

namespace AmberCrate.Cli.Tests;

public sealed class InstallTests
{
    private const string NobodyToAsk = """
        acrate: cannot ask whether to go ahead: there is no terminal
          why: nothing has been changed
          next: add --yes to go ahead, or --dry-run to see the plan only
        """;

    [Fact]
    public async Task A_platform_that_was_chosen_is_shown_kept_and_written_into_bundles()
    {
        Assert.SkipUnless(RuntimeInformation.OSArchitecture == Architecture.X64, "it takes a machine that runs i386 too");
        await using var sandbox = Sandbox.WithCatalogues();
        var card = sandbox["guild", "truss-tally.appcard.toml"];
        File.WriteAllText(card, File.ReadAllText(card).Replace("\"any-linux-any\"", "\"i386-linux-any\""));
        sandbox.Run("catalogue", "refresh").ShouldEnd(0);
        sandbox.Run("install", "truss-tally", "--yes").ShouldRefuse(3, "truss-tally has no release for this machine");
        Directory.Move(sandbox["guild", "files"], sandbox["guild", "away"]);
        sandbox.Run("install", "truss-tally", "--platform", "i386-linux-any", "--yes").ShouldExitWith(9);
        Directory.Move(sandbox["guild", "away"], sandbox["guild", "files"]);
        sandbox.Run("retry", "--yes").ShouldEnd(0);
        sandbox.Run("list").ShouldEnd(0).Out.ShouldContain("for i386-linux-any");
        sandbox.Run("upgrade", "--yes").ShouldPrint(0, "Nothing to do.");
        sandbox.Run("install", "truss-tally", "--platform", "x86_64-linux-gnu", "--yes")
            .ShouldRefuse(4, "truss-tally is installed for i386-linux-any");
        sandbox.Run("export", "-o", "a.bundle.toml").ShouldEnd(0);
        sandbox.Run("uninstall", "truss-tally", "--yes").ShouldEnd(0);
        sandbox.Run("equip", "a.bundle.toml", "--yes").ShouldEnd(0);
        sandbox.Run("list").ShouldEnd(0).Out.ShouldContain("for i386-linux-any");
    }

    [Fact]
    public async Task Lines_of_json_stay_lines_also_where_it_ends_in_an_error()
    {
        await using var sandbox = Sandbox.WithCatalogues();
        var result = sandbox.Run("install", "cue-ledger", "--json");
        result.ShouldExitWith(2);
        foreach (var line in result.Out.TrimEnd().Split('\n')) System.Text.Json.JsonDocument.Parse(line).Dispose();
    }

    [Fact]
    public async Task Install_puts_every_form_in_place()
    {
        await using var sandbox = Sandbox.WithCatalogues();
        sandbox.Run("install", "gantry-plot", "scrim-paint@4.2.x", "cue-ledger", "dimmer-desk", "seatmap-teller", "--yes")
            .ShouldEnd(0).Out.ShouldEndWith("""
            1 of 5  done       gantry-plot 2.1.0
            2 of 5  done       scrim-paint 4.2.1
            3 of 5  done       cue-ledger 1.5.0
            4 of 5  done       dimmer-desk 0.9.0
            5 of 5  done       seatmap-teller 3.1.0
            5 done.
            attention  dimmer-desk: restart the machine to finish
            attention  seatmap-teller: shows a dialog at first start
            attention  seatmap-teller: terms of a licence must be accepted

            """);
        foreach (var (command, says) in new[]
        {
            ("gantry-plot", "Gantry Plot 2.1.0"), ("scrim-paint", "Scrim Paint 4.2.1"), ("cue-ledger", "Cue Ledger 1.5.0"),
            ("dimmer-desk", "Dimmer Desk 0.9.0"), ("seatmap-teller", "Seatmap Teller 3.1.0"),
        })
            sandbox.RunInstalled(command, "--version").ShouldBe(says + "\n");
        sandbox.Tree("root").ShouldBe([
            ".local/bin/cue-ledger -> ../share/amber-crate/front/cue-ledger/bin/cue-ledger",
            ".local/bin/dimmer-desk -> ../share/amber-crate/front/dimmer-desk/bin/dimmer-desk",
            ".local/bin/gantry-plot -> ../share/amber-crate/front/gantry-plot/bin/gantry-plot",
            ".local/bin/scrim-paint -> ../share/amber-crate/front/scrim-paint/bin/scrim-paint",
            ".local/bin/seatmap-teller -> ../share/amber-crate/front/seatmap-teller/seatmap-teller",
            .. Front("cue-ledger", "1.5.0"), .. Front("dimmer-desk", "0.9.0"), .. Front("gantry-plot", "2.1.0"),
            .. Front("scrim-paint", "4.2.1"), .. Front("seatmap-teller", "3.1.0"),
            .. Shelf("cue-ledger", "1.5.0"), .. Shelf("dimmer-desk", "0.9.0"), .. Shelf("gantry-plot", "2.1.0"),
            .. Shelf("scrim-paint", "4.2.1"),
            ".local/share/amber-crate/shelf/seatmap-teller/3.1.0+any/seatmap-teller",
            ".local/share/applications/dimmer-desk.desktop",
            ".local/share/applications/gantry-plot.desktop",
            ".local/share/applications/scrim-paint.desktop",
            ".local/share/icons/hicolor/scalable/apps/dimmer-desk.svg",
            ".local/share/icons/hicolor/scalable/apps/gantry-plot.svg",
            ".local/share/icons/hicolor/scalable/apps/scrim-paint.svg",
        ]);
        File.ReadAllText(sandbox["root", ".local", "share", "applications", "gantry-plot.desktop"]).ShouldBe($"""
            [Desktop Entry]
            Type=Application
            Version=1.1
            Name=Gantry Plot
            Comment=Rigging plans for flown scenery
            Exec={sandbox["root"]}/.local/bin/gantry-plot %F
            TryExec={sandbox["root"]}/.local/bin/gantry-plot
            Icon=gantry-plot
            Categories=Graphics;Engineering;VectorGraphics;
            Keywords=rigging;flying;bars;load;
            Terminal=false

            """);
        File.ReadAllText(sandbox["root", ".local", "share", "applications", "scrim-paint.desktop"])
            .ShouldContain($"Exec={sandbox["root"]}/.local/bin/scrim-paint %F\nTerminal=true\n");

        static string[] Front(string app, string version) =>
            [$".local/share/amber-crate/front/{app} -> ../shelf/{app}/{version}+any"];
        static IEnumerable<string> Shelf(string app, string version) =>
            new[] { "README", $"bin/{app}", $"share/applications/{app}.desktop", $"share/icons/{app}.svg" }.Select(
                file => $".local/share/amber-crate/shelf/{app}/{version}+any/{file}");
    }

    [Fact]
    public async Task A_dry_run_shows_the_plan_and_changes_nothing()
    {
        await using var sandbox = Sandbox.WithCatalogues();
        var size = new FileInfo(sandbox["guild", "files", "scrim-paint-4.1.2.tar.xz"]).Length;
        sandbox.Run("install", "scrim-paint@4.1.x", "--dry-run").ShouldPrint(0, $"""
            1 to install
            plan     app          to     catalogue  download  on disk  remark
            install  scrim-paint  4.1.2  guild         {size} B    819 B  follows @4.1.x
            {size} B to download · no administrator rights needed
            commands: scrim-paint
            menu entries: scrim-paint
            needs 1.6 KiB; ROOM free on /
            """);
        sandbox.Tree("root").ShouldBeEmpty();
        var plan = sandbox.Run("install", "scrim-paint@4.1.x", "-n", "--json").ShouldEnd(0).Json;
        plan.GetProperty("changes").GetBoolean().ShouldBeTrue();
        plan.GetProperty("items")[0].GetProperty("action").GetString().ShouldBe("install");
    }

    [Fact]
    public async Task What_is_there_already_is_unchanged_with_a_hint_of_newer()
    {
        await using var sandbox = Sandbox.WithCatalogues();
        sandbox.Run("install", "scrim-paint@4.1.2", "--yes").ShouldEnd(0);
        sandbox.Run("install", "scrim-paint", "--yes").ShouldPrint(0, """
            Nothing to do: 1 unchanged.
            unchanged  scrim-paint 4.1.2  follows @4.1.2; 4.2.1 is newer
            """);
        sandbox.Run("install", "scrim-paint", "--dry-run").ShouldPrint(0, """
            Nothing to do: 1 unchanged.
            unchanged  scrim-paint 4.1.2  follows @4.1.2; 4.2.1 is newer
            """);
        sandbox.Run("upgrade", "--dry-run").ShouldPrint(0, """
            Nothing to do: 1 unchanged.
            unchanged  scrim-paint 4.1.2  follows @4.1.2; 4.2.1 is newer
            """);
        sandbox.Run("install", "scrim-paint@4..5").ShouldBeRefused(2, NobodyToAsk);
        sandbox.Run("install", "scrim-paint@4..5", "--yes").ShouldEnd(0).Out.ShouldContain("keep  scrim-paint  4.1.2");
        sandbox.Run("install", "scrim-paint", "--yes").ShouldPrint(0, """
            Nothing to do: 1 unchanged.
            unchanged  scrim-paint 4.1.2  4.2.1 is available: acrate upgrade scrim-paint
            """);
    }

    [Fact]
    public async Task A_list_with_unknown_names_changes_nothing()
    {
        await using var sandbox = Sandbox.WithCatalogues();
        File.WriteAllText(sandbox["apps.txt"], "# this week\ncue-ledger@1.5.x # for the paint frame\n\nscrim-pant\n");
        sandbox.Run("install", "gantry-plto", "--list-file", "apps.txt", "--yes").ShouldFail(3, """
            acrate: 2 of the names cannot be used
              why: nothing has been changed
                no app is called "gantry-plto" (searched the catalogues house, guild)
                  did you mean one of these?
                    gantry-plot  Gantry Plot: Rigging plans for flown scenery
                no app is called "scrim-pant" (searched the catalogues house, guild)
                  did you mean one of these?
                    scrim-paint  Scrim Paint: Paint backdrops and gauzes to scale
            """);
        sandbox.Tree("root").ShouldBeEmpty();
        sandbox.Run("install", "scrim-paint@9.x", "--yes").ShouldRefuse(3, "scrim-paint has no release that fits @9.x");
        sandbox.Run("install", "scrim-paint@4.2.0", "scrim-paint@4.1.2", "--yes")
            .ShouldRefuse(4, "scrim-paint is named twice, with different versions: scrim-paint@4.2.0 and scrim-paint@4.1.2");
        sandbox.Run("install", "scrim-paint", "--platform", "any").ShouldRefuse(2, "--platform \"any\" cannot be used");
        sandbox.Run("install", "scrim-paint", "--platform", "riscv64-linux-gnu")
            .ShouldRefuse(4, "this machine cannot run programs for riscv64-linux-gnu");
        sandbox.Run("install", "--yes").ShouldRefuse(2, "no app is named");
        sandbox.Run("install", "scrim-paint@", "--yes").ShouldRefuse(2, "\"scrim-paint@\" is not a reference to an app");
        sandbox.Run("install", "--list-file", "none.txt", "--yes").ShouldRefuse(3, "there is no file none.txt");
    }

    [Fact]
    public async Task An_ambiguous_name_is_answered_with_candidates()
    {
        await using var sandbox = new Sandbox();
        var card = sandbox["guild", "truss-tally.appcard.toml"];
        File.WriteAllText(
            card, File.ReadAllText(card).Replace("name = \"Truss Tally\"", "name = \"Scrim Paint\"", StringComparison.Ordinal));
        sandbox.Run("catalogue", "add", "guild", "guild").ShouldEnd(0);
        sandbox.Run("install", "Scrim Paint", "--yes").ShouldFail(3, """
            acrate: "Scrim Paint" fits more than one app
              next: name it by its id
                scrim-paint  Scrim Paint: Paint backdrops and gauzes to scale
                truss-tally  Scrim Paint: Count truss, couplers and safeties
            """);
    }

    [Fact]
    public async Task Uninstall_leaves_nothing_that_was_placed()
    {
        await using var sandbox = Sandbox.WithCatalogues();
        sandbox.Run("install", "gantry-plot", "scrim-paint@4.1.2", "--yes").ShouldEnd(0);
        sandbox.Run("install", "scrim-paint@4.2.1", "--yes").ShouldEnd(0);
        sandbox.Run("uninstall", "gantry-plot", "Scrim Paint").ShouldBeRefused(2, NobodyToAsk);
        sandbox.Run("uninstall", "gantry-plot", "Scrim Paint", "--yes").ShouldPrint(0, """
            2 to uninstall
            plan       app          from   catalogue
            uninstall  gantry-plot  2.1.0  guild
            uninstall  scrim-paint  4.2.1  guild
            frees ROOM · no administrator rights needed

            1 of 2  done       gantry-plot 2.1.0 uninstalled
            2 of 2  done       scrim-paint 4.2.1 uninstalled
            2 done.
            """);
        sandbox.Tree("root").ShouldBeEmpty();
        sandbox.Run("uninstall", "gantry-plot", "--yes").ShouldFail(3, """
            acrate: no installed app is called "gantry-plot"
              next: acrate list shows what is installed
            """);
        sandbox.Run("uninstall", "gantry-plot@2", "--yes")
            .ShouldRefuse(2, "\"gantry-plot@2\" has a version or a catalogue in it");
        sandbox.Run("uninstall", "--yes").ShouldRefuse(2, "no app is named");
    }

    [Fact]
    public async Task Json_of_a_run_holds_plan_and_outcomes()
    {
        await using var sandbox = Sandbox.WithCatalogues();
        File.Delete(sandbox["guild", "files", "cue-ledger-1.5.0.zip"]);
        var result = sandbox.Run("install", "gantry-plot", "cue-ledger", "--yes", "--json");
        result.ShouldEnd(1);
        result.Json.GetProperty("exit_code").GetInt32().ShouldBe(1);
        result.Json.GetProperty("items")
            .EnumerateArray()
            .Select(item => $"{item.GetProperty("id")} {item.GetProperty("to")} {item.GetProperty("outcome")}")
            .ShouldBe(["gantry-plot 2.1.0 done", "cue-ledger 1.5.0 failed"]);
        var error = sandbox.Run("install", "nothing-like-it", "--json");
        error.Json.GetProperty("error").GetProperty("code").GetString().ShouldBe("nothing-matched");
        error.Json.GetProperty("exit_code").GetInt32().ShouldBe(error.ExitCode);
    }

    [Fact]
    public async Task A_command_that_would_hide_another_one_is_placed_only_where_the_person_says_so()
    {
        await using var sandbox = Sandbox.WithCatalogues();
        Directory.CreateDirectory(sandbox["programs"]);
        File.WriteAllText(sandbox["programs", "gantry-plot"], "");
        sandbox.Variables["PATH"] = $"{sandbox["root", ".local", "bin"]}:{sandbox["programs"]}";
        var refused = sandbox.Run("install", "gantry-plot", "--yes");
        refused.ShouldExitWith(4);
        refused.Error.ShouldBe("""
            acrate: gantry-plot places the command gantry-plot, which would hide ~/programs/gantry-plot
              why: whoever types it would start another program than before; nothing has been changed
              next: add --shadow gantry-plot, and it is installed all the same

            """);
        var put = sandbox.Run("install", "gantry-plot", "--yes", "--shadow", "gantry-plot");
        put.ShouldExitWith(0);
        put.Out.ShouldContain("commands: gantry-plot\nmenu entries: gantry-plot\n");
        put.Out.ShouldContain("~/root/.local/bin/gantry-plot hides ~/programs/gantry-plot\n");
        sandbox.PublishLater();
        sandbox.Run("catalogue", "refresh").ShouldExitWith(0);
        var later = sandbox.Run("upgrade", "--yes");
        later.ShouldExitWith(0);
        later.Out.ShouldNotContain("hides");
        later.Out.ShouldNotContain("commands: ");
    }

    [Fact]
    public async Task A_command_behind_another_one_hides_nothing()
    {
        await using var sandbox = Sandbox.WithCatalogues();
        Directory.CreateDirectory(sandbox["programs"]);
        File.WriteAllText(sandbox["programs", "gantry-plot"], "");
        sandbox.Variables["PATH"] = $"{sandbox["programs"]}:{sandbox["root", ".local", "bin"]}";
        sandbox.Run("install", "gantry-plot", "--dry-run", "--json").ShouldEnd(0).Json.GetProperty("places").EnumerateArray()
            .ShouldAllBe(place => place.GetProperty("hides").ValueKind == System.Text.Json.JsonValueKind.Null);
    }
}
