using System.Diagnostics;
using AmberCrate.Engine.Storage;
using AmberCrate.Tests;

namespace AmberCrate.Cli.Tests;

/// <summary>What a caller, a disk or a person has put around the program: each is told for what it is, with what to do.</summary>
public sealed class SurroundingsTests
{
    private const string Records = "~/root/.local/state/amber-crate/records.db";

    [Theory]
    [InlineData("rm -r root/.local/state/amber-crate/records.db; mkdir root/.local/state/amber-crate/records.db", 9,
        "why: " + Records + " is a folder, and should be a database\n  next: move the folder away and run the command again\n")]
    [InlineData("printf x > root/.local/state/amber-crate/records.db-wal; : > root/.local/state/amber-crate/records.db", 9,
        "why: the database is damaged\n  next: restore it from a copy.")]
    [InlineData("printf x > root/.local/state/amber-crate/records.db-wal; rm root/.local/state/amber-crate/records.db", 9,
        "why: the database is damaged\n  next: restore it from a copy.")]
    public async Task A_database_that_is_none_is_neither_missing_rights_nor_an_empty_machine(string damage, int code, string says)
    {
        await using var sandbox = Sandbox.WithCatalogues();
        sandbox.Run("install", "cue-ledger", "--yes").ShouldEnd(0);
        Shell(sandbox, damage);
        foreach (var command in new[] { "list", "upgrade" })
        {
            var refused = sandbox.Run(command);
            refused.ShouldExitWith(code);
            refused.Error.ShouldContain(says);
        }
    }

    [Theory]
    [InlineData("UPDATE apps SET record = '{\"id\":\"cue-ledger\"}'", "the record of cue-ledger cannot be read")]
    [InlineData("UPDATE apps SET id = '../x'", "the record of ../x cannot be read")]
    [InlineData("UPDATE apps SET record = replace(record, '\"installed_at\":\"2', '\"installed_at\":\"12')",
        "the record of cue-ledger cannot be read")]
    [InlineData("INSERT INTO intentions(id, after, begun) VALUES('../x', NULL, '2026')", null)]
    public async Task An_unreadable_record_is_named_stops_nothing_and_the_next_change_mends_it(string damage, string? says)
    {
        await using var sandbox = Sandbox.WithCatalogues();
        sandbox.Run("install", "cue-ledger", "--yes").ShouldEnd(0);
        using (var database =
            Database.Open(sandbox["root", ".local", "state", "amber-crate", "records.db"])) database.Run(damage);
        foreach (string[] command in new[] { ["list"], (string[])["list", "--json"] })
        {
            var told = sandbox.Run(command).ShouldExitWith(0);
            if (says is null) told.Error.ShouldBe("");
            else told.Error.ShouldContain($"note: {says}, and the app is left out: ");
            told.Out.ShouldContain("cue-ledger", Case.Sensitive, "the note beside the app tells what is installed");
        }

        if (says is not null) sandbox.Run("check").ShouldExitWith(9).Out.ShouldContain(says);
        sandbox.Run("install", "gantry-plot", "--yes").ShouldExitWith(0);
        sandbox.Run("check").ShouldEnd(0);
        sandbox.Run("list").ShouldEnd(0).Out.ShouldStartWith("2 apps, 0 outdated\n");
    }

    [Fact]
    public async Task The_last_second_of_the_calendar_is_told_in_every_time_zone()
    {
        await using var sandbox = Sandbox.WithCatalogues();
        sandbox.Run("install", "cue-ledger", "--yes").ShouldEnd(0);
        using (var database = Database.Open(sandbox["root", ".local", "state", "amber-crate", "records.db"]))
            database.Run("UPDATE apps SET record = replace(record, substr(record, instr(record, 'installed_at') + 15, 19), "
                + "'9999-12-31T23:59:59')");
        foreach (var zone in new[] { "UTC", "Asia/Tokyo", "America/Lima" })
        {
            sandbox.Variables["TZ"] = zone;
            sandbox.Run("list").ShouldEnd(0);
            sandbox.Run("list", "--json").ShouldEnd(0).Json.GetProperty("apps").GetArrayLength().ShouldBe(1);
            sandbox.Run("export").ShouldEnd(0);
        }
    }

    [Theory]
    [InlineData("relative/home")]
    [InlineData("")]
    public async Task A_home_that_is_no_absolute_path_is_refused(string home)
    {
        await using var sandbox = new Sandbox();
        sandbox.Variables["HOME"] = home;
        sandbox.Variables["ACRATE_ROOT"] = "";
        var refused = sandbox.Run("catalogue", "add", "guild", "guild");
        if (home.Length == 0)
        {
            Directory.Exists(sandbox[".local"]).ShouldBeFalse();
            return;
        }

        refused.ShouldExitWith(2);
        refused.Error.ShouldStartWith("acrate: the variable HOME is not the path of a folder\n");
        Directory.Exists(sandbox["relative"]).ShouldBeFalse();
    }

    [Fact]
    public async Task A_name_that_no_file_system_takes_is_a_matter_of_the_command_line()
    {
        await using var sandbox = new Sandbox();
        sandbox.Root = new string('x', 300);
        foreach (string[] command in new[] { ["list"], (string[])["catalogue", "add", "guild", "guild"] })
        {
            var refused = sandbox.Run(command);
            if (command[0] == "list" && refused.ExitCode == 0) continue;
            refused.ShouldExitWith(2);
            refused.Error.ShouldContain(
                "why: the path is too long\n  next: name a folder with a shorter path, such as with --root\n");
        }
    }

    [Fact]
    public async Task Nobody_else_can_change_what_is_installed_under_an_open_mask()
    {
        await using var sandbox = Sandbox.WithCatalogues();
        sandbox.Before = "umask 000";
        sandbox.SystemPrograms["nothing-to-hide"] = null;
        sandbox.Run("install", "gantry-plot", "scrim-paint", "--yes").ShouldExitWith(0);
        foreach (var path in Directory.EnumerateFileSystemEntries(sandbox["root"], "*", SearchOption.AllDirectories)
            .Where(path => new FileInfo(path).LinkTarget is null))
            (File.GetUnixFileMode(path) & (UnixFileMode.GroupWrite | UnixFileMode.OtherWrite)).ShouldBe(UnixFileMode.None, path);
    }

    [Theory]
    [InlineData("ulimit -f 2", "a file would become larger than this process may write", "lift the limit (ulimit -f)")]
    [InlineData("ulimit -n 12", "too many files are open", "lift the limit (ulimit -n)")]
    public async Task Limits_of_the_process_end_with_a_sentence(string limit, string why, string next)
    {
        const int runtimeOfItsOwn = 10 << 20;
        Assert.SkipUnless(new FileInfo(Sandbox.Program).Length > runtimeOfItsOwn, "the limits are those of the native program");
        await using var sandbox = Sandbox.WithCatalogues();
        using var process = Process.Start(new ProcessStartInfo("/bin/sh",
            ["-c", $"{limit}; exec \"$@\"", "sh", Sandbox.Program, "install", "gantry-plot", "scrim-paint", "--yes"])
        {
            RedirectStandardError = true, RedirectStandardOutput = true, UseShellExecute = false, WorkingDirectory =
                sandbox.Folder,
            Environment = { ["HOME"] = sandbox["home"], ["ACRATE_ROOT"] = sandbox["root"] },
        })!;
        var said = process.ReadOutput() + await process.ReadErrorsAsync();
        process.EndInTime();
        process.ExitCode.ShouldBe(9, said);
        said.ShouldContain(why);
        said.ShouldContain(next);
        sandbox.Run("list", "--json").ShouldEnd(0).Json.GetProperty("apps").GetArrayLength().ShouldBe(0);
    }

    [Fact]
    public async Task A_disk_that_starts_no_programs_is_told_before_anything_is_downloaded()
    {
        await using var sandbox = Sandbox.WithCatalogues();
        sandbox.SystemPrograms["nothing-to-hide"] = null;
        sandbox.Before = $"/usr/bin/mkdir -p {sandbox["root", ".local", "share"]}\n"
            + $"/usr/bin/mount -t tmpfs -o noexec none {sandbox["root", ".local", "share"]}";
        var refused = sandbox.Run("install", "gantry-plot", "--yes");
        refused.ShouldExitWith(9);
        refused.Error.ShouldContain("the commands of gantry-plot could not be started\n  why: the file system at "
            + "~/root/.local/share is mounted with noexec; nothing has been changed\n");
    }

    [Fact]
    public async Task A_full_disk_is_named()
    {
        await using var sandbox = Sandbox.WithCatalogues();
        sandbox.SystemPrograms["nothing-to-hide"] = null;
        var share = sandbox["root", ".local", "share"];
        sandbox.Before = $"/usr/bin/mkdir -p {share}\n/usr/bin/mount -t tmpfs -o size=4k none {share}";
        var refused = sandbox.Run("install", "backcloth-render", "gantry-plot", "scrim-paint", "cue-ledger", "--yes");
        refused.ShouldExitWith(9);
        (refused.Out + refused.Error).ShouldMatch("the disk at ~/root/.local/share is full|free on ~/root/.local/share");
    }

    [Fact]
    public async Task A_root_that_was_moved_gets_its_menu_entries_put_right()
    {
        await using var sandbox = Sandbox.WithCatalogues();
        sandbox.Run("install", "gantry-plot", "scrim-paint", "--yes").ShouldEnd(0);
        Directory.Move(sandbox["root"], sandbox["moved"]);
        sandbox.Root = "moved";
        var refreshed = sandbox.Run("catalogue", "refresh");
        refreshed.ShouldExitWith(0);
        refreshed.Error.ShouldBe(
            "note: this folder has been moved; the menu entries of gantry-plot, scrim-paint have been repaired\n");
        foreach (var app in new[] { "gantry-plot", "scrim-paint" })
        {
            var entry = File.ReadAllText(sandbox["moved", ".local", "share", "applications", $"{app}.desktop"]);
            entry.ShouldContain($"Exec={sandbox["moved", ".local", "bin", app]}");
            entry.ShouldNotContain(sandbox["root"] + "/");
        }

        sandbox.Run("catalogue", "refresh").ShouldEnd(0).Error.ShouldBeEmpty();
        sandbox.Run("uninstall", "gantry-plot", "scrim-paint", "--yes").ShouldEnd(0);
        sandbox.Tree("moved").ShouldBeEmpty();
    }

    [Fact]
    public async Task Menus_that_a_killed_run_has_left_are_written_by_the_next()
    {
        await using var sandbox = Sandbox.WithCatalogues();
        sandbox.SystemPrograms["update-desktop-database"] = $"#!/bin/sh\necho told >> {sandbox["told"]}\n";
        sandbox.SystemPrograms["gtk-update-icon-cache"] = null;
        sandbox.Run("install", "scrim-paint", "--yes").ShouldExitWith(0);
        File.Delete(sandbox["told"]);
        sandbox.Variables["ACRATE_MISTAKE_AT_STEP"] = "12";
        sandbox.Run("install", "gantry-plot", "--yes").ShouldExitWith(70);
        sandbox.Variables.Remove("ACRATE_MISTAKE_AT_STEP");
        File.Exists(sandbox["told"]).ShouldBeFalse();
        sandbox.Run("catalogue", "refresh").ShouldExitWith(0);
        File.ReadAllText(sandbox["told"]).ShouldBe("told\n");
        sandbox.Run("catalogue", "refresh").ShouldExitWith(0);
        File.ReadAllText(sandbox["told"]).ShouldBe("told\n", "once is enough");
    }

    private static void Shell(Sandbox sandbox, string command)
    {
        using var process = Process.Start(new ProcessStartInfo("/bin/sh", ["-ec", command])
        {
            UseShellExecute = false, WorkingDirectory = sandbox.Folder,
        })!;
        process.EndInTime();
        process.ExitCode.ShouldBe(0, command);
    }
}
