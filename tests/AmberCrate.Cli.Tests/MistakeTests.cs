namespace AmberCrate.Cli.Tests;

/// <summary>What a mistake of the program itself looks like to the person, and what it leaves behind.</summary>
public sealed class MistakeTests
{
    [Fact]
    public async Task A_mistake_ends_with_70_an_apology_and_a_log_and_the_next_command_puts_things_right()
    {
        await using var sandbox = Sandbox.WithCatalogues();
        sandbox.Prepare.Install("cue-ledger@1.4.0");
        sandbox.Variables["TMPDIR"] = sandbox.Folder;
        sandbox.Variables["ACRATE_MISTAKE_AT_STEP"] = "7";
        var mistaken = sandbox.Run("install", "cue-ledger@1.5.0", "--yes");
        mistaken.ShouldExitWith(70);
        var log = Directory.EnumerateFiles(sandbox.Folder, "acrate-mistake-*.log").ShouldHaveSingleItem();
        mistaken.Error.ShouldBe(
            $"acrate: sorry, this is a mistake of acrate itself; the details are in ~/{Path.GetFileName(log)}\n");
        File.GetUnixFileMode(log).ShouldBe(UnixFileMode.UserRead | UnixFileMode.UserWrite);
        File.ReadAllText(log)
            .ShouldContain("cue-ledger@1.5.0 --yes\nSystem.InvalidOperationException: a mistake made on purpose");
        sandbox.Variables.Remove("ACRATE_MISTAKE_AT_STEP");
        sandbox.RunInstalled("cue-ledger", "--version").ShouldBe("Cue Ledger 1.4.0\n");
        var retried = sandbox.Run("retry", "--yes");
        retried.ShouldExitWith(0);
        retried.Out.ShouldContain("\n1 done.\n");
        sandbox.RunInstalled("cue-ledger", "--version").ShouldBe("Cue Ledger 1.5.0\n");
    }

    [Fact]
    public async Task What_is_suggested_can_be_pasted_with_the_root_of_the_call()
    {
        await using var sandbox = new Sandbox();
        sandbox.Variables["ACRATE_ROOT"] = sandbox["another"];
        sandbox.Run("--root", "a b", "catalogue", "list").ShouldPrint(0, """
            No catalogue has been added.
            next: acrate catalogue add --root '~/a b' NAME LOCATION
            """);
        sandbox.Run("install", "scrim-paint", "--root", "a", "--all-users").ShouldFail(3, """
            acrate: no app is called "scrim-paint"
              why: no catalogue has been added yet
              next: acrate catalogue add --all-users --root ~/a NAME LOCATION
            """);
    }

    [Fact]
    public async Task Verbose_tells_on_standard_error_what_is_done()
    {
        await using var sandbox = await Sandbox.WithServedGuildAsync();
        var told = sandbox.Run("catalogue", "refresh", "--verbose");
        (told.ExitCode, told.Out).ShouldBe((0, "guild  nothing new, 10 apps\n"));
        told.Error.ShouldContain("settings: ~/root/.config/amber-crate/acrate.toml (not there)\n");
        told.Error.ShouldContain("GET http://guild/timestamp.json: 200\n");
        sandbox.Run("--version", "--verbose").ShouldEnd(0).Out.ShouldContain("  OpenSSL       3.");
    }

    [Fact]
    public async Task Settings_are_shown_with_where_they_come_from()
    {
        await using var sandbox = new Sandbox();
        Directory.CreateDirectory(sandbox["root", ".config", "amber-crate"]);
        File.WriteAllText(sandbox["root", ".config", "amber-crate", "acrate.toml"], "downloads = 2\n");
        sandbox.Variables["ACRATE_WAIT"] = "0.25";
        var json = sandbox.Run("settings", "--json").ShouldEnd(0).Json;
        json.GetProperty("format").GetInt32().ShouldBe(1);
        json.GetProperty("settings").EnumerateArray().Where(value => value.GetProperty("origin").GetString() != "default")
            .Select(value => $"{value.GetProperty("name")} {value.GetProperty("value")} {value.GetProperty("origin")} "
                + $"{value.GetProperty("where")}".Replace(sandbox.Folder, "~"))
            .ShouldBe(["downloads 2 file ~/root/.config/amber-crate/acrate.toml:1", "wait 0.25 variable ACRATE_WAIT"]);
        sandbox.Run("settings").ShouldEnd(0).Out.ShouldContain(
            "downloads           2          ~/root/.config/amber-crate/acrate.toml:1  How many");
        File.AppendAllText(sandbox["root", ".config", "amber-crate", "acrate.toml"], "bandwith = 3\n");
        sandbox.Run("list").ShouldFail(2, """
            acrate: ~/root/.config/amber-crate/acrate.toml has 1 fault
              why: no setting has been used
              next: correct them; docs/settings.md describes every key
                ~/root/.config/amber-crate/acrate.toml:2: bandwith: unknown key; did you mean bandwidth?
            """);
    }
}
