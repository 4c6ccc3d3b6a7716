namespace AmberCrate.Cli.Tests;

/// <summary>What the system lacks is shown before a download; launchers start what was built for /usr.</summary>
public sealed class SystemTests
{
    private const string Requirement =
        "system = [{ kind = \"library\", name = \"libgauze.so.2\", symbols = [\"GAUZE_2.1\"], deb = [\"libgauze2\"] }]";

    [Fact]
    public async Task An_app_that_the_system_lacks_something_for_is_left_out_and_the_others_go_on()
    {
        await using var sandbox = Sandbox.WithCatalogues();
        Require(sandbox, "cue-ledger", Requirement);
        Require(sandbox, "gantry-plot", "system = []");
        sandbox.Prepare.Refresh();
        var about = sandbox.Run("about", "cue-ledger").ShouldEnd(0).Out;
        about.ShouldContain("  needs          no other app\n  system lacks   libgauze.so.2 with GAUZE_2.1\n");
        about.ShouldNotContain("next: acrate install");
        sandbox.Run("about", "gantry-plot").ShouldEnd(0).Out.ShouldContain("  of the system  nothing\n");
        sandbox.Run("about", "scrim-paint").ShouldEnd(0).Out.ShouldContain("  of the system  not supplied\n");
        sandbox.Run("about", "thundersheet").ShouldEnd(0).Out.ShouldContain("  of the system  1 thing, none seen missing\n");
        var alone = sandbox.Run("install", "cue-ledger", "--yes");
        alone.ShouldExitWith(11);
        alone.Error.ShouldStartWith(
            "acrate: cue-ledger 1.5.0 needs libgauze.so.2 with GAUZE_2.1, which this system lacks\n"
                + "  why: nothing has been downloaded or changed\n  next: ");
        var plan = sandbox.Run("install", "cue-ledger", "gantry-plot", "--dry-run");
        plan.ShouldExitWith(1);
        plan.Out.ShouldContain("needs libgauze.so.2 with GAUZE_2.1, which this system lacks");
        plan.Out.ShouldContain("\nthis system lacks: libgauze.so.2 with GAUZE_2.1\n");
        var both = sandbox.Run("install", "cue-ledger", "gantry-plot", "--yes");
        both.ShouldExitWith(1);
        both.Out.ShouldContain("1 done, 1 failed");
        var json = sandbox.Run("install", "cue-ledger", "thundersheet", "--dry-run", "--json").Json;
        json.GetProperty("items").EnumerateArray().First(item => item.GetProperty("id").GetString() == "cue-ledger")
            .GetProperty("lacks")[0].GetProperty("name").GetString().ShouldBe("libgauze.so.2");
        sandbox.Run("list", "--json").ShouldEnd(0).Json.GetProperty("apps").GetArrayLength().ShouldBe(1);
    }

    [Fact]
    public async Task A_launcher_is_told_in_the_plan_and_starts_the_program()
    {
        await using var sandbox = Sandbox.WithCatalogues();
        var card = sandbox["guild", "cue-ledger.appcard.toml"];
        File.AppendAllText(card, "\n[place]\nfolders.data = [\"bin\"]\n");
        sandbox.Prepare.Refresh();
        sandbox.Run("install", "cue-ledger", "--yes").ShouldEnd(0).Out.ShouldContain(
            "cue-ledger is started by a launcher that sets XDG_DATA_DIRS\n");
        sandbox.Run("about", "cue-ledger").ShouldEnd(0).Out.ShouldContain(
            "  started        by a launcher that sets XDG_DATA_DIRS\n");
        sandbox.RunInstalled("cue-ledger", "--version").ShouldContain("Cue Ledger 1.5.0");
        sandbox.Run("check").ShouldEnd(0);
    }

    [Fact]
    public async Task A_program_finds_the_folders_of_an_app_that_it_borrows_from_wherever_its_versions_are()
    {
        await using var sandbox = Sandbox.WithCatalogues();
        Require(sandbox, "cue-ledger", "needs = [\"gantry-plot\"]");
        File.AppendAllText(sandbox["guild", "cue-ledger.appcard.toml"], "\n[place]\nborrows = [\"gantry-plot\"]\n");
        File.AppendAllText(sandbox["guild", "gantry-plot.appcard.toml"], "\n[place]\nfolders.data = [\"bin\"]\n");
        sandbox.Prepare.Refresh();
        sandbox.Run("install", "cue-ledger", "--yes").ShouldEnd(0).Out.ShouldContain(
            "cue-ledger is started by a launcher that lets it find the files of gantry-plot\n");
        var own = sandbox["root", ".local", "share", "amber-crate"];
        var launcher = Path.Combine(own, "front", "cue-ledger", ".launch", "cue-ledger");
        sandbox.RunBy("/usr/bin/env", "PATH=/usr/bin:/bin", "/bin/sh", "-x", launcher, "--version").Error.ShouldContain(
            "+ XDG_DATA_DIRS=~/root/.local/share/amber-crate/shelf/gantry-plot/");
        sandbox.Run("check").ShouldEnd(0);
        sandbox.Run("uninstall", "gantry-plot", "--yes").ShouldExitWith(4);
    }

    private static void Require(Sandbox sandbox, string app, string line)
    {
        var card = sandbox["guild", $"{app}.appcard.toml"];
        File.WriteAllLines(card, [line, .. File.ReadAllLines(card)]);
    }
}
