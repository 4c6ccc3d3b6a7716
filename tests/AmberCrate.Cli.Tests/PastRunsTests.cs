namespace AmberCrate.Cli.Tests;

public sealed class PastRunsTests
{
    [Fact]
    public async Task A_bad_upgrade_is_undone_without_a_download_and_the_undo_too()
    {
        await using var sandbox = Sandbox.WithCatalogues();
        sandbox.Prepare.Install("scrim-paint@4.2.x", "cue-ledger");
        sandbox.PublishLater();
        sandbox.Prepare.Refresh();
        sandbox.Run("upgrade", "--yes").ShouldEnd(0);
        var upgraded = sandbox.Tree("root");
        Directory.Delete(sandbox["guild", "files"], recursive: true);
        sandbox.Run("undo", "--yes", "--offline").ShouldEnd(0).Out.ShouldContain("still on this machine");
        sandbox.RunInstalled("cue-ledger", "--version").ShouldBe("Cue Ledger 1.5.0\n");
        sandbox.RunInstalled("scrim-paint", "--version").ShouldBe("Scrim Paint 4.2.1\n");
        sandbox.Run("undo", "--yes").ShouldEnd(0).Out.ShouldStartWith("undoing run 3: acrate undo --yes");
        sandbox.RunInstalled("cue-ledger", "--version").ShouldBe("Cue Ledger 1.6.0\n");
        sandbox.Tree("root").ShouldBe(upgraded);
        sandbox.Run("check").ShouldEnd(0);
        sandbox.Run("runs").ShouldEnd(0).Out
            .ShouldMatch("^4 runs\nrun  when +who +outcome +command\n  4  just now +\\S+ +2 done");
        var run = sandbox.Run("runs", "2", "--json").ShouldEnd(0).Json;
        run.GetProperty("items").EnumerateArray()
            .Select(item => $"{item.GetProperty("id")} {item.GetProperty("from")} {item.GetProperty("to")}")
            .ShouldBe(["cue-ledger 1.5.0 1.6.0", "scrim-paint 4.2.1 4.2.2"]);
        run.GetProperty("logs").GetArrayLength().ShouldBe(3);
    }

    [Fact]
    public async Task The_machine_before_and_after_a_run_is_written_as_a_bundle()
    {
        await using var sandbox = Sandbox.WithCatalogues();
        sandbox.Prepare.Install("scrim-paint@4.1.2");
        sandbox.Prepare.Install("scrim-paint@4.2.1", "gantry-plot");
        sandbox.Run("uninstall", "gantry-plot", "--yes").ShouldEnd(0);
        string Apps(params string[] arguments) => string.Join(
            ", ", sandbox.Run(["runs", "--bundle", .. arguments]).ShouldEnd(0).Out.Split('\n')
                .Where(line => line.StartsWith("version", StringComparison.Ordinal)));
        Apps("1").ShouldBe("version = \"4.1.2\"");
        Apps("1", "--before").ShouldBe("");
        Apps("2").ShouldBe("version = \"2.1.0\", version = \"4.2.1\"");
        Apps("3").ShouldBe("version = \"4.2.1\"");
        sandbox.Run("runs", "--bundle", "2", "-o", "b.bundle.toml").ShouldEnd(0);
        sandbox.Root = "other";
        sandbox.Run("equip", "b.bundle.toml", "--yes", "--unsigned").ShouldEnd(0).Out.ShouldContain("2 done.");
    }

    [Fact]
    public async Task What_undo_cannot_bring_back_is_said_and_what_would_break_others_is_refused()
    {
        await using var sandbox = Sandbox.WithCatalogues();
        sandbox.Variables["ACRATE_CACHE"] = sandbox["cache"];
        sandbox.Run("undo", "--yes").ShouldFail(3, """
            acrate: no run has changed anything
              next: acrate runs
            """);
        sandbox.Prepare.Install("batten-runtime");
        sandbox.Prepare.Install("trapdoor-carry");
        sandbox.Run("undo", "1", "--yes").ShouldFail(4, """
            acrate: run 1 cannot be undone
              why: what would be left does not go together; nothing has been changed
              next: undo the later runs first, or change these apps by hand
                trapdoor-carry 7.0 needs batten-runtime@1..2
            """);
        sandbox.Prepare.Install("cue-ledger");
        sandbox.PublishLater();
        sandbox.Prepare.Refresh();
        sandbox.Run("upgrade", "cue-ledger", "--yes").ShouldEnd(0);
        Directory.Delete(sandbox["root", ".local", "share", "amber-crate", "shelf", "cue-ledger", "1.5.0+any"], recursive: true);
        sandbox.Run("undo", "--dry-run").ShouldEnd(0).Out.ShouldContain("downgrade  cue-ledger  1.6.0  1.5.0");
        File.Delete(sandbox["guild", "cue-ledger.appcard.toml"]);
        sandbox.Prepare.Refresh();
        sandbox.Run("undo", "--dry-run").ShouldEnd(0).Out.ShouldContain("from the file that is still on this machine");
        sandbox.Run("reclaim", "--yes").ShouldEnd(0).Out.ShouldContain("for undo until ");
        sandbox.Run("undo", "--dry-run").ShouldEnd(0).Out.ShouldContain("from the file that is still on this machine");
        Directory.Delete(sandbox["cache"], recursive: true);
        sandbox.Run("undo", "--yes").ShouldExitWith(3).Out.ShouldContain(
            "1.5.0 is neither on this machine nor offered by guild with the same file");
        sandbox.RunInstalled("cue-ledger", "--version").ShouldBe("Cue Ledger 1.6.0\n");
        sandbox.Run("undo", "99", "--yes").ShouldRefuse(3, "there is no run 99 on record");
        sandbox.Run("undo", "x", "--yes").ShouldRefuse(2, "\"x\" is not the number of a run");
    }
}
