using AmberCrate.Tests;

namespace AmberCrate.Cli.Tests;

public sealed class CheckTests
{
    private const string Shelf = ".local/share/amber-crate/shelf";

    [Theory]
    [InlineData($"rm -r {Shelf}/cue-ledger/1.5.0+any", "cue-ledger/1.5.0+any is missing", true)]
    [InlineData($"rm -r {Shelf}/cue-ledger/1.5.0+any/*", "bin/cue-ledger is missing", true)]
    [InlineData($"rm {Shelf}/cue-ledger/1.5.0+any/README", "README is missing", false)]
    [InlineData($"echo more >> {Shelf}/cue-ledger/1.5.0+any/README", "README has 22 bytes instead of 17", false)]
    [InlineData("rm .local/share/amber-crate/front/cue-ledger", "front/cue-ledger does not lead to 1.5.0", true)]
    [InlineData("rm .local/bin/cue-ledger", ".local/bin/cue-ledger is missing", true)]
    public async Task What_is_damaged_is_found_repaired_and_never_called_unchanged(string damage, string finding, bool isListed)
    {
        await using var sandbox = Sandbox.WithCatalogues();
        sandbox.Prepare.Install("cue-ledger", "gantry-plot");
        sandbox.Run("check", "--deep").ShouldPrint(0, "All is well with 2 apps · every file was read");
        var whole = sandbox.Tree("root");
        Shell(sandbox, damage);
        var check = sandbox.Run("check").ShouldExitWith(9).Out;
        check.ShouldContain(finding);
        check.ShouldEndWith("next: acrate check --repair\n");
        sandbox.Run("list", "cue").ShouldEnd(0).Out.Contains("damaged", StringComparison.Ordinal).ShouldBe(isListed);
        sandbox.Run("install", "cue-ledger", "--dry-run").ShouldEnd(0).Out.ShouldContain("1 to repair");
        sandbox.Run("check", "--repair", "--yes").ShouldEnd(0).Out.ShouldContain("1 done.");
        sandbox.Run("check", "--deep").ShouldEnd(0);
        sandbox.Tree("root").ShouldBe(whole);
        sandbox.RunInstalled("cue-ledger", "--version").ShouldBe("Cue Ledger 1.5.0\n");
    }

    [Fact]
    public async Task A_file_with_another_content_is_found_by_a_deep_check_only()
    {
        await using var sandbox = Sandbox.WithCatalogues();
        sandbox.Prepare.Install("cue-ledger");
        Shell(sandbox, $"tr C X < {Shelf}/cue-ledger/1.5.0+any/README > r; cat r > {Shelf}/cue-ledger/1.5.0+any/README; rm r");
        sandbox.Run("check").ShouldEnd(0);
        sandbox.Run("check", "--deep").ShouldExitWith(9).Out.ShouldContain("README has another content");
        sandbox.Run("check", "--repair", "--deep", "--yes").ShouldEnd(0);
        sandbox.Run("check", "--deep").ShouldEnd(0);
    }

    [Fact]
    public async Task What_a_person_has_changed_is_told_and_left()
    {
        await using var sandbox = Sandbox.WithCatalogues();
        sandbox.Prepare.Install("scrim-paint");
        Shell(sandbox, "echo X-Mine=yes >> .local/share/applications/scrim-paint.desktop");
        Shell(sandbox, "rm .local/bin/scrim-paint && ln -s /bin/true .local/bin/scrim-paint");
        var check = sandbox.Run("check").ShouldEnd(0).Out;
        check.ShouldContain(".local/bin/scrim-paint was changed by hand");
        check.ShouldContain("scrim-paint.desktop was changed by hand");
        sandbox.Run("list").ShouldEnd(0).Out.ShouldContain("changed by hand\n");
        sandbox.Run("check", "--repair", "--yes").ShouldEnd(0);
        sandbox.Run("install", "scrim-paint", "--again", "--yes").ShouldEnd(0);
        File.ReadAllText(sandbox["root", ".local", "share", "applications", "scrim-paint.desktop"]).ShouldContain("X-Mine=yes");
        new FileInfo(sandbox["root", ".local", "bin", "scrim-paint"]).LinkTarget.ShouldBe("/bin/true");
    }

    [Fact]
    public async Task Findings_about_the_machine_have_a_remedy_each()
    {
        await using var sandbox = Sandbox.WithCatalogues();
        sandbox.Prepare.Install("trapdoor-carry", "scrim-paint@4.1.2");
        Shell(sandbox, $"mkdir -p {Shelf}/gone/1.0+any {Shelf}/scrim-paint/.incoming-9; chmod o+w .local/bin");
        var findings = sandbox.Run("check", "--json").ShouldEnd(0).Json.GetProperty("findings").EnumerateArray()
            .Select(finding => finding.GetProperty("kind").GetString()).Order().Distinct();
        findings.ShouldBe(["leftovers", "permissions"]);
        sandbox.Run("uninstall", "trapdoor-carry", "--yes").ShouldEnd(0);
        sandbox.Run("check").ShouldEnd(0).Out.ShouldContain("no app needs batten-runtime any more");
        sandbox.Run("runs", "1", "--before").ShouldRefuse(2, "--before and --output go with --bundle only");
        sandbox.Run("list", "--observed", "--sort", "size").ShouldRefuse(2, "--sort does not go with --observed");
        sandbox.Run("check", "juggler").ShouldRefuse(3, "no installed app is called \"juggler\"");
    }

    [Fact]
    public async Task Room_is_given_back_but_for_what_undo_and_pins_need()
    {
        await using var sandbox = Sandbox.WithCatalogues();
        sandbox.Variables["ACRATE_CACHE"] = sandbox["cache"];
        sandbox.Prepare.Install("scrim-paint@4.1.2", "cue-ledger");
        sandbox.Prepare.Install("scrim-paint@4.2.1");
        var plan = sandbox.Run("reclaim", "--dry-run", "--json").ShouldEnd(0).Json;
        plan.GetProperty("items").EnumerateArray().Count(item => item.GetProperty("kind").GetString() == "download").ShouldBe(3);
        plan.GetProperty("items").EnumerateArray()
            .Single(item => item.GetProperty("kind").GetString() == "old-version")
            .GetProperty("kept").GetString().ShouldStartWith("for undo until ");
        sandbox.Run("reclaim").ShouldRefuse(2, "cannot ask whether to go ahead: there is no terminal");
        sandbox.Run("reclaim", "--yes").ShouldEnd(0).Out.ShouldEndWith(" freed.\n");
        Directory.GetFiles(sandbox["cache"]).ShouldBeEmpty();
        sandbox.Run("undo", "--yes").ShouldEnd(0);
        sandbox.Variables["ACRATE_UNDO_DAYS"] = "0";

        // Records have whole seconds: without this, runs of the current second would become old while the test goes on.
        using (var records = Engine.Storage.Database.Open(sandbox["root", ".local", "state", "amber-crate", "records.db"]))
            records.Run("UPDATE runs SET begun = '2026-01-01T00:00:00Z'").ShouldBe(3);
        sandbox.Run("pin", "scrim-paint@4..5").ShouldEnd(0);
        var held = sandbox.Run("reclaim", "--yes").ShouldEnd(0).Out;
        held.ShouldContain("pinned");
        held.ShouldContain("2 records of runs");
        sandbox.Run("pin", "scrim-paint", "--lift").ShouldEnd(0);
        sandbox.Run("reclaim", "--yes").ShouldEnd(0);
        Directory.GetDirectories(sandbox["root", ".local", "share", "amber-crate", "shelf", "scrim-paint"])
            .Select(Path.GetFileName).ShouldBe(["4.1.2+any"]);
        sandbox.Run("check", "--deep").ShouldEnd(0);
        sandbox.Run("reclaim").ShouldEnd(0).Out.ShouldEndWith("Nothing to reclaim.\n");
    }

    private static void Shell(Sandbox sandbox, string command)
    {
        using var process = System.Diagnostics.Process.Start(
            new System.Diagnostics.ProcessStartInfo("/bin/sh", ["-c", command]) { WorkingDirectory = sandbox["root"] })!;
        process.EndInTime();
        process.ExitCode.ShouldBe(0, command);
    }
}
