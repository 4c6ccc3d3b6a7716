using System.Diagnostics;
using System.Formats.Tar;
using AmberCrate.Engine.Layout;
using AmberCrate.Engine.Runs;
using AmberCrate.Engine.Storage;
using AmberCrate.Playhouse;
using AmberCrate.Tests;

namespace AmberCrate.Cli.Tests;

/// <summary>Whatever goes wrong: a clear error, the documented exit code, and the machine as it was.</summary>
public sealed class TroubleTests
{
    [Theory]
    [InlineData("404", 6, "why: the server answers 404 Not Found")]
    [InlineData("500", 6, "why: the server answers 500 Internal Server Error")]
    [InlineData("stall", 6, "why: the server has sent nothing for 2 seconds")]
    [InlineData("cut", 6, "why: ")]
    [InlineData("other", 5, "why: expected sha256 ")]
    public async Task A_download_that_goes_wrong_leaves_the_machine_as_it_was(string fault, int exitCode, string says)
    {
        await using var sandbox = await Sandbox.WithServedGuildAsync();
        sandbox.Server.Faults["scrim-paint-4.2.1.tar.xz"] = Fault(fault);
        if (fault == "stall") sandbox.Variables["ACRATE_NETWORK_TIMEOUT"] = "2";
        var result = sandbox.Run("install", "scrim-paint", "--yes").ShouldEnd(exitCode);
        result.Out.ShouldContain("failed  scrim-paint 4.2.1: ");
        result.Out.ShouldContain(says);
        result.Out.ShouldContain("\n1 failed.\nApps that failed were not changed.\nfailed  scrim-paint 4.2.1: ");
        result.Out.ShouldEndWith("next: acrate retry 1\nlog: ~/root/.local/state/amber-crate/logs/00001/run.log\n");
        sandbox.Tree("root").ShouldBeEmpty();
        Directory.GetFiles(sandbox.Downloads)
            .ShouldAllBe(file => file.EndsWith(".part", StringComparison.Ordinal), "what has arrived is kept only for going on");

        sandbox.Server.Faults.Clear();
        sandbox.Run("install", "scrim-paint", "--yes").ShouldEnd(0);
    }

    [Fact]
    public async Task Damaged_records_are_named_and_apps_in_place_are_taken_up_again_without_them()
    {
        await using var sandbox = Sandbox.WithCatalogues();
        sandbox.Run("install", "scrim-paint", "cue-ledger", "--yes").ShouldEnd(0);
        var (before, records) = (sandbox.Tree("root"), sandbox["root", ".local", "state", "amber-crate", "records.db"]);
        var damaged = File.ReadAllBytes(records);
        damaged.AsSpan(4096).Fill(0x5a);
        File.WriteAllBytes(records, damaged);
        foreach (var command in new[] { "list", "upgrade" })
        {
            var refused = sandbox.Run(command);
            refused.ShouldExitWith(9);
            refused.Error.ShouldContain(
                "  why: the database ~/root/.local/state/amber-crate/records.db is damaged\n  next: restore it from a copy. "
                    + "Without a copy: move it away");
            sandbox.Tree("root").ShouldBe(before);
        }

        foreach (var file in Directory.EnumerateFiles(Path.GetDirectoryName(records)!, "records.db*")) File.Delete(file);
        var added = sandbox.Run("catalogue", "add", "guild", "guild");
        added.ShouldExitWith(0);
        added.Error.ShouldBe(
            "note: the records were older than this machine, and have been brought up to date: cue-ledger 1.5.0 is installed, "
                + "scrim-paint 4.2.1 is installed\n");
        sandbox.Run("list", "--json").Json.GetProperty("apps").GetArrayLength().ShouldBe(2);
        sandbox.Tree("root").ShouldBe(before);
        sandbox.Run("uninstall", "cue-ledger", "scrim-paint", "--yes").ShouldEnd(0);
        sandbox.Tree("root").ShouldBeEmpty();
    }

    [Fact]
    public async Task Records_that_are_older_than_the_disk_are_brought_up_to_date()
    {
        await using var sandbox = Sandbox.WithCatalogues();
        sandbox.Run("install", "scrim-paint@4.1.2", "thundersheet", "--yes").ShouldEnd(0);
        var state = sandbox["root", ".local", "state", "amber-crate"];
        var older = Directory.EnumerateFiles(state, "records.db*").ToDictionary(file => file, File.ReadAllBytes);
        sandbox.Run("install", "scrim-paint@4.2.x", "cue-ledger", "--yes").ShouldEnd(0);
        sandbox.Run("uninstall", "thundersheet", "--yes").ShouldEnd(0);
        foreach (var file in Directory.EnumerateFiles(state, "records.db*")) File.Delete(file);
        foreach (var (file, bytes) in older) File.WriteAllBytes(file, bytes);
        const string What = "scrim-paint is 4.2.1, not 4.1.2, thundersheet is not installed, cue-ledger 1.5.0 is installed\n";
        var list = sandbox.Run("list", "--json");
        list.ShouldExitWith(0);
        list.Error.ShouldBe($"note: the records are older than this machine: {What}");
        list.Json.GetProperty("apps").EnumerateArray().Select(app => $"{app.GetProperty("id")} {app.GetProperty("version")}")
            .ShouldBe(["cue-ledger 1.5.0", "scrim-paint 4.2.1"]);
        var upgraded = sandbox.Run("upgrade", "--yes");
        upgraded.ShouldExitWith(0);
        upgraded.Error.ShouldBe($"note: the records were older than this machine, and have been brought up to date: {What}");
        foreach (var (command, says) in new[] { ("scrim-paint", "Scrim Paint 4.2.1"), ("cue-ledger", "Cue Ledger 1.5.0") })
            sandbox.RunInstalled(command, "--version").ShouldBe(says + "\n");
        sandbox.Run("uninstall", "scrim-paint", "cue-ledger", "--yes").ShouldEnd(0);
        sandbox.Tree("root").ShouldBeEmpty();
    }

    [Fact]
    public async Task Retry_asks_for_what_the_run_asked_for_and_not_for_what_the_app_followed_before()
    {
        await using var sandbox = Sandbox.WithCatalogues();
        sandbox.Run("install", "scrim-paint@4.1.x", "--yes").ShouldEnd(0);
        var artifact = sandbox["guild", "files", "scrim-paint-4.2.1.tar.xz"];
        var bytes = File.ReadAllBytes(artifact);
        File.WriteAllText(artifact, "altered");
        sandbox.Run("install", "scrim-paint@4.2.x", "--yes").ShouldExitWith(5);
        File.WriteAllBytes(artifact, bytes);
        sandbox.Run("retry", "--yes").ShouldEnd(0).Out.ShouldContain("1 of 1  done       scrim-paint 4.2.1\n");
        sandbox.Run("list", "--json").Json.GetProperty("apps")[0].GetProperty("follows").GetString().ShouldBe("4.2.x");
    }

    [Fact]
    public async Task One_failure_does_not_stop_the_others()
    {
        await using var sandbox = await Sandbox.WithServedGuildAsync();
        sandbox.Server.Faults["cue-ledger-1.5.0.zip"] = new ServerFault.Status(404);
        var result = sandbox.Run("install", "gantry-plot", "cue-ledger", "truss-tally", "--yes");
        result.ShouldEnd(1).Out.ShouldEndWith("""
            1 of 3  done       gantry-plot 2.1.0
            2 of 3  failed     cue-ledger 1.5.0
            3 of 3  done       truss-tally 0.3
            2 done, 1 failed.
            Apps that failed were not changed.
            failed  cue-ledger 1.5.0: http://guild/files/cue-ledger-1.5.0.zip cannot be downloaded
              why: the server answers 404 Not Found
              next: acrate catalogue refresh, in case the catalogue has changed; otherwise tell its maintainer
            next: acrate retry 1
            log: ~/root/.local/state/amber-crate/logs/00001/run.log

            """);
        sandbox.Run("list", "--json").Json.GetProperty("apps").GetArrayLength().ShouldBe(2);
    }

    [Fact]
    public async Task A_failed_upgrade_leaves_the_old_version_in_place()
    {
        await using var sandbox = Sandbox.WithCatalogues();
        sandbox.Run("install", "cue-ledger", "--yes").ShouldEnd(0);
        var before = sandbox.Tree("root");
        sandbox.PublishLater();
        sandbox.Run("catalogue", "refresh").ShouldEnd(0);
        File.WriteAllText(sandbox["guild", "files", "cue-ledger-1.6.0.zip"], "altered");
        sandbox.Run("upgrade", "--yes").ShouldEnd(5).Out.ShouldContain("the file does not verify: it is too small");
        sandbox.Tree("root").ShouldBe(before);
        sandbox.RunInstalled("cue-ledger", "--version").ShouldBe("Cue Ledger 1.5.0\n");
    }

    [Fact]
    public async Task A_card_that_places_what_the_artifact_lacks_fails_before_anything_is_placed()
    {
        await using var sandbox = new Sandbox();
        var card = sandbox["guild", "gantry-plot.appcard.toml"];
        File.WriteAllText(card, File.ReadAllText(card)
            .Replace("path = \"share/icons/gantry-plot.svg\"", "path = \"share/none.svg\"", StringComparison.Ordinal));
        sandbox.Run("catalogue", "add", "guild", "guild").ShouldEnd(0);
        sandbox.Run("install", "gantry-plot", "--yes").ShouldEnd(5).Out.ShouldContain(
            "the card names share/none.svg, which is not in the artifact");
        File.WriteAllText(card, File.ReadAllText(card)
            .Replace("share/none.svg", "share/icons/gantry-plot.svg", StringComparison.Ordinal)
            .Replace("path = \"bin/gantry-plot\"", "path = \"README\"", StringComparison.Ordinal));
        sandbox.Run("catalogue", "refresh").ShouldEnd(0);
        sandbox.Run("install", "gantry-plot", "--yes").ShouldEnd(5).Out.ShouldContain("which is not an executable file");
        sandbox.Tree("root").ShouldBeEmpty();
    }

    [Theory]
    [InlineData("climbing", "it holds an entry that climbs out of its folder, \"../../../../../escaped\"")]
    [InlineData("absolute", "it holds an entry with an absolute name, \"/tmp/acrate-cli-escaped\"")]
    [InlineData("link", "it holds a link that leaves its folder, \"bin\" to \"../../../..\"")]
    [InlineData("folder", "it holds a file where a folder is, \"bin\"")]
    public async Task An_archive_that_would_leave_its_folder_is_not_put_on(string kind, string why)
    {
        await using var sandbox = new Sandbox();
        TarEntry[] entries = kind switch
        {
            "climbing" => [File("bin/truss-tally"), File("../../../../../escaped")],
            "absolute" => [File("bin/truss-tally"), File("/tmp/acrate-cli-escaped")],
            "link" => [new UstarTarEntry(TarEntryType.SymbolicLink, "bin") { LinkName = "../../../.." }, File("bin/truss-tally")],
            _ => [File("bin/truss-tally"), File("bin")],
        };
        sandbox.ReplaceArtifact("truss-tally", ArtifactForge.Gzip(ArtifactForge.Tar(entries)), "tar.gz");
        sandbox.Run("catalogue", "add", "guild", "guild").ShouldEnd(0);
        var before = sandbox.Tree(".");
        var result = sandbox.Run("install", "truss-tally", "--yes").ShouldEnd(5);
        result.Out.ShouldContain(
            $"failed  truss-tally 0.3: the archive is not accepted\n  why: {why}\n  next: do not use the file, and tell the "
                + $"catalogue's maintainer\n");
        sandbox.Tree(".").ShouldBe(before);
        Path.Exists("/tmp/acrate-cli-escaped").ShouldBeFalse();

        static TarEntry File(string name) =>
            new UstarTarEntry(TarEntryType.RegularFile, name) { DataStream = new MemoryStream([1]) };
    }

    [Fact]
    public async Task A_file_of_somebody_else_is_not_overwritten()
    {
        await using var sandbox = Sandbox.WithCatalogues();
        Directory.CreateDirectory(sandbox["root", ".local", "bin"]);
        File.WriteAllText(sandbox["root", ".local", "bin", "gantry-plot"], "mine");
        sandbox.Run("install", "gantry-plot", "cue-ledger", "--yes").ShouldFail(4, """
            acrate: ~/root/.local/bin/gantry-plot is in the way of gantry-plot
              why: it was not placed by acrate; nothing has been changed
              next: move it away, then run the command again
            """);
        Directory.Exists(sandbox.Downloads).ShouldBeFalse("nothing is fetched");
        sandbox.Tree("root").ShouldBe([".local/bin/gantry-plot"]);
        File.ReadAllText(sandbox["root", ".local", "bin", "gantry-plot"]).ShouldBe("mine");
    }

    [Fact]
    public async Task A_root_that_cannot_be_written_is_said_before_anything_happens()
    {
        await using var sandbox = Sandbox.WithCatalogues();
        sandbox.Run("--root", "/proc/acrate", "catalogue", "add", "x", "house")
            .ShouldRefuse(9, "the state folder /proc/acrate/.local/state/amber-crate cannot be written");
        File.WriteAllText(sandbox["file"], "");
        sandbox.Run("--root", "file", "catalogue", "add", "x", "house").Error.ShouldStartWith(
            "acrate: the state folder ~/file/.local/state/amber-crate cannot be written\n  why: ");
        File.WriteAllText(sandbox["root", ".local", "bin"], "");
        sandbox.Run("install", "gantry-plot", "--yes").ShouldRefuse(9, "~/root/.local/bin cannot be created");
        File.Delete(sandbox["root", ".local", "bin"]);
        sandbox.Tree("root").ShouldBeEmpty();
    }

    [Fact]
    public async Task Missing_rights_are_said_before_anything_is_fetched()
    {
        await using var sandbox = await Sandbox.WithServedGuildAsync();
        var bin = Directory.CreateDirectory(sandbox["root", ".local", "bin"]).FullName;
        if (Mount("mount", "-t", "tmpfs", "-o", "ro", "none", bin) != 0) Assert.Skip("no right to mount a read-only tmpfs here");
        try
        {
            sandbox.Server.Requests.Clear();
            sandbox.Run("install", "cue-ledger", "--yes").ShouldBeRefused(7, """
                acrate: ~/root/.local/bin cannot be written
                  why: nothing has been changed
                  next: check who owns the folder, or name another with --root
                """);
            sandbox.Server.Requests.ShouldBeEmpty();
            File.WriteAllText(
                sandbox["a.bundle.toml"],
                "bundle = 1\n[[catalogues]]\nname = \"house\"\nlocation = \"house\"\n[[apps]]\nreference = \"prompt-margin\"\n");
            sandbox.Run("equip", "a.bundle.toml", "--yes", "--unsigned").ShouldRefuse(7, "~/root/.local/bin cannot be written");
            sandbox.Run("catalogue", "list").Out.ShouldNotContain(
                "house", Case.Sensitive, "a catalogue that a bundle brings is not added either");
            sandbox.Tree("root").ShouldBeEmpty();
        }
        finally
        {
            Mount("umount", bin);
        }
    }

    [Fact]
    public async Task A_full_disk_fails_the_item_and_leaves_room_again()
    {
        await using var sandbox = new Sandbox();
        File.WriteAllBytes(sandbox["guild", "files", "big"], new byte[24 << 20]);
        File.WriteAllText(sandbox["guild", "big.appcard.toml"], $"""
            appcard = 1
            id = "big"
            type = "console-application"
            name = "Big"
            summary = "More than fits"
            [[place.commands]]
            name = "big"
            path = "big"
            [[releases]]
            version = "1"
            date = 2026-01-01
            [[releases.artifacts]]
            platform = "any-linux-any"
            location = "files/big"
            format = "executable"
            sha256 = "{Convert.ToHexStringLower(System.Security.Cryptography.SHA256.HashData(new byte[24 << 20]))}"
            download_size = {24 << 20}
            installed_size = 1
            """);
        Directory.CreateDirectory(sandbox["small"]);
        if (Mount("mount", "-t", "tmpfs", "-o", "size=16m", "none", sandbox["small"]) != 0)
            Assert.Skip("no right to mount a small tmpfs here");
        try
        {
            sandbox.Root = "small/root";
            sandbox.Run("catalogue", "add", "guild", "guild").ShouldEnd(0);
            sandbox.Run("install", "big", "cue-ledger", "--yes").ShouldEnd(1).Out.ShouldContain(
                "failed  big 1 cannot be installed\n  why: the disk at ~/small is full\n  next: free disk space, for "
                    + "example with "
                    + "acrate reclaim, then run the command again\n");
            sandbox.Tree("small").ShouldNotContain(path => path.Contains("big", StringComparison.Ordinal));
            sandbox.Run("list", "--json").Json.GetProperty("apps").GetArrayLength().ShouldBe(1);
        }
        finally
        {
            Mount("umount", sandbox["small"]);
        }
    }

    [Fact]
    public async Task Apps_are_removed_from_a_disk_that_is_full()
    {
        await using var sandbox = new Sandbox();
        Directory.CreateDirectory(sandbox["small"]);
        if (Mount("mount", "-t", "tmpfs", "-o", "size=24m,nr_inodes=400", "none", sandbox["small"]) != 0)
            Assert.Skip("no right to mount a small tmpfs here");
        try
        {
            (sandbox.Root, sandbox.Variables["ACRATE_CACHE"]) = ("small/root", sandbox["small", "cache"]);
            sandbox.Run("catalogue", "add", "guild", "guild").ShouldEnd(0);
            sandbox.Run("install", "cue-ledger", "scrim-paint", "--yes").ShouldEnd(0);
            FillUp(sandbox["small"]);
            sandbox.Run("uninstall", "cue-ledger", "--yes").ShouldEnd(0).Out.ShouldEndWith("1 done.\n");
            sandbox.Tree("small/root").ShouldNotContain(path => path.Contains("cue-ledger", StringComparison.Ordinal));
            FillUp(sandbox["small"]);
            sandbox.Run("list", "--json").ShouldEnd(0).Json.GetProperty("apps").GetArrayLength().ShouldBe(1);
            foreach (var file in Directory.EnumerateFiles(sandbox["small"], "filler-*")) File.Delete(file);
            sandbox.Run("install", "cue-ledger", "--yes").ShouldEnd(0);
            FillUp(sandbox["small"]);
            sandbox.Run("uninstall", "cue-ledger", "scrim-paint", "--yes").ShouldEnd(0).Out.ShouldEndWith("2 done.\n");
        }
        finally
        {
            Mount("umount", sandbox["small"]);
        }

        // To the last byte, and to the last file that the file system can have.
        static void FillUp(string folder)
        {
            var content = new byte[1 << 20];
            for (var (number, size) = (0, content.Length); ;)
            {
                try
                {
                    using var file =
                        new FileStream(Path.Combine(folder, $"filler-{Guid.NewGuid()}-{number++}"), FileMode.CreateNew);
                    file.Write(content, 0, size);
                }
                catch (IOException) when (size > 0)
                {
                    size /= 4;
                }
                catch (IOException)
                {
                    return;
                }
            }
        }
    }

    [Fact]
    public async Task An_app_whose_files_cannot_be_deleted_is_uninstalled_all_the_same()
    {
        await using var sandbox = Sandbox.WithCatalogues();
        sandbox.Run("install", "cue-ledger", "--yes").ShouldEnd(0);
        var shelf = Directory.GetDirectories(
            sandbox["root", ".local", "share", "amber-crate", "shelf", "cue-ledger"]).ShouldHaveSingleItem();
        var kept = Directory.CreateDirectory(Path.Combine(shelf, "kept")).FullName;
        if (Mount("mount", "-t", "tmpfs", "none", kept) != 0) Assert.Skip("no right to mount a tmpfs here");
        try
        {
            sandbox.Run("uninstall", "cue-ledger", "--yes").ShouldEnd(0).Out.ShouldContain(
                "1 done.\nattention  cue-ledger: it is uninstalled, but some of its files stay in ");
            sandbox.Run("list", "--json").ShouldEnd(0).Json.GetProperty("apps").GetArrayLength().ShouldBe(0);
        }
        finally
        {
            Mount("umount", kept);
        }

        sandbox.Run("install", "scrim-paint", "--yes").ShouldEnd(0);
        sandbox.Tree("root")
            .ShouldNotContain(path => path.Contains("cue-ledger", StringComparison.Ordinal), "leftovers go later");
    }

    [Fact]
    public async Task An_app_does_not_wait_for_the_file_of_another_that_it_has_nothing_to_do_with()
    {
        await using var sandbox = await Sandbox.WithServedGuildAsync();
        sandbox.Variables["ACRATE_NETWORK_TIMEOUT"] = "60";
        sandbox.Server.Faults["scrim-paint-4.2.1.tar.xz"] = new ServerFault.Stall();
        string[] arguments = ["install", "scrim-paint", "cue-ledger", "--yes"];
        using var process = sandbox.Start(arguments);
        for (var waited = 0; waited < 600 && sandbox.Run("list", "cue-ledger").ExitCode != 0; waited++) await Task.Delay(50);
        Process.Start("kill", ["-INT", $"{process.Id}"])!.EndInTime();
        sandbox.Finish(process, arguments).ShouldExitWith(130).Out.ShouldContain("done       cue-ledger 1.5.0\n");
        sandbox.RunInstalled("cue-ledger", "--version").ShouldBe("Cue Ledger 1.5.0\n");
        sandbox.Tree("root").ShouldNotContain(path => path.Contains("scrim-paint", StringComparison.Ordinal));
    }

    [Fact]
    public async Task The_second_of_two_runs_is_told_who_holds_the_lock()
    {
        await using var sandbox = await Sandbox.WithServedGuildAsync();
        using (RunLock.Acquire(MachineLayout.Under(sandbox["root"]), "acrate install scrim-paint --yes", TimeProvider.System))
        {
            var second = sandbox.Run("install", "cue-ledger", "--yes");
            second.ShouldExitWith(8);
            second.Error.ShouldMatch(
                $"^acrate: another run is changing this machine\n  why: held by process {Environment.ProcessId} since 20.*: "
                    + "acrate install scrim-paint --yes\n"
                    + "  next: wait until it has ended, then run the command again; --wait SECONDS does that\n$");
            sandbox.Run("list").ShouldEnd(0);
        }

        sandbox.Run("install", "cue-ledger", "--yes").ShouldEnd(0);
    }

    [Fact]
    public async Task A_run_that_waits_for_a_server_can_be_interrupted_and_others_read_meanwhile()
    {
        await using var sandbox = await Sandbox.WithServedGuildAsync();
        sandbox.Variables["ACRATE_NETWORK_TIMEOUT"] = "30";
        sandbox.Server.Faults["scrim-paint-4.2.1.tar.xz"] = new ServerFault.Stall();
        string[] arguments = ["install", "scrim-paint", "--yes"];
        using var first = sandbox.Start(arguments);
        await sandbox.WaitForDownloadAsync();
        sandbox.Run("list").ShouldEnd(0);
        sandbox.Run("about", "scrim-paint").ShouldEnd(0).Out.ShouldContain("Not installed.\n");
        sandbox.Run("search", "scrim").ShouldEnd(0);
        sandbox.Run("retry", "--dry-run").ShouldEnd(0);
        Process.Start("kill", ["-INT", $"{first.Id}"])!.EndInTime();
        var result = sandbox.Finish(first, arguments);
        result.ShouldExitWith(130);
        result.Error.ShouldBe(
            "note: stopping after the current app; interrupt again to stop at once and put that app back as it was\n");
        result.Out.ShouldEndWith(
            "1 of 1  skipped    scrim-paint 4.2.1\n1 skipped.\nStopped. The remaining apps were not changed.\n"
                + "next: acrate retry 1\nlog: ~/root/.local/state/amber-crate/logs/00001/run.log\n");
        sandbox.Tree("root").ShouldBeEmpty();
        Directory.GetFiles(sandbox.Downloads).ShouldHaveSingleItem().ShouldEndWith(".part");
        sandbox.Run("install", "cue-ledger", "--yes").ShouldEnd(0);
    }

    [Theory]
    [InlineData("list", 9)]
    [InlineData("list --json", 9)]
    [InlineData("search scrim", 9)]
    [InlineData("about scrim-paint", 9)]
    [InlineData("about nobody --json", 3)]
    public async Task Output_that_cannot_be_written_is_a_failure(string command, int exitCode)
    {
        await using var sandbox = Sandbox.WithCatalogues();
        using var shell = Process.Start(new ProcessStartInfo("/bin/sh",
        [
            "-c", $"\"$1\" {command} --root \"$2\" >/dev/full", "sh", Sandbox.Program, sandbox["root"],
        ])
        { RedirectStandardError = true, UseShellExecute = false })!;
        var error = await shell.ReadErrorsAsync();
        await shell.EndInTimeAsync();
        shell.ExitCode.ShouldBe(exitCode, error);
        if (exitCode == 9) error.ShouldBe(
            "acrate: the command cannot be carried out\n  why: the disk is full\n  next: free disk space, for example "
                + "with acrate "
                + $"reclaim --root {sandbox["root"]}, then run the command again\n");
        error.ShouldNotContain("   at ");
    }

    [Fact]
    public async Task A_reader_that_goes_away_is_no_failure()
    {
        await using var sandbox = Sandbox.WithCatalogues();
        using var shell = Process.Start(new ProcessStartInfo("/bin/sh",
        [
            "-c", "{ \"$1\" search paint --json --root \"$2\"; echo $? >&2; } | :", "sh", Sandbox.Program, sandbox["root"],
        ])
        { RedirectStandardError = true, UseShellExecute = false })!;
        (await shell.ReadErrorsAsync()).ShouldBe("0\n");
    }

    [Fact]
    public async Task A_run_that_was_killed_does_not_keep_the_lock()
    {
        await using var sandbox = await Sandbox.WithServedGuildAsync();
        sandbox.Variables["ACRATE_NETWORK_TIMEOUT"] = "30";
        sandbox.Server.Faults["scrim-paint-4.2.1.tar.xz"] = new ServerFault.Stall();
        using var first = sandbox.Start("install", "scrim-paint", "--yes");
        await sandbox.WaitForDownloadAsync();
        first.Kill();
        await first.EndInTimeAsync();
        sandbox.Server.Faults.Clear();
        sandbox.Run("list").ShouldEnd(0);
        sandbox.Run("install", "scrim-paint", "--yes").ShouldEnd(0);
    }

    [Theory]
    [InlineData("instal", "gantry-plot")]
    [InlineData("install", "--bogus")]
    [InlineData("catalogue")]
    [InlineData("catalogue", "add", "x")]
    [InlineData("about")]
    [InlineData("settings", "extra")]
    public async Task A_command_line_that_is_wrong_ends_with_2(params string[] arguments)
    {
        await using var sandbox = new Sandbox();
        var result = sandbox.Run(arguments);
        result.ShouldExitWith(2);
        result.Error.ShouldStartWith("acrate: ");
        result.Error.ShouldContain("--help");
        result.Error.ShouldNotContain("   at ");
        result.Out.ShouldBe("");
    }

    [Fact]
    public async Task Records_that_are_damaged_or_newer_are_said_and_left_alone()
    {
        await using var sandbox = Sandbox.WithCatalogues();
        var records = sandbox["root", ".local", "state", "amber-crate", "records.db"];
        File.WriteAllText(records, new string('x', 5000));
        var result = sandbox.Run("list");
        result.ShouldFail(9, """
            acrate: the records ~/root/.local/state/amber-crate/records.db cannot be opened
              why: the database is damaged
              next: restore it from a copy. Without a copy: move it away with records.db-wal and records.db-shm, and add the catalogues again; acrate then takes up the apps that are installed
            """);
        File.ReadAllText(records).ShouldBe(new string('x', 5000));
    }

    [Theory]
    [InlineData("UPDATE cards SET line = x'00' WHERE id = 'scrim-paint'", "about", "scrim-paint")]
    [InlineData("UPDATE cards SET line = x'00'", "install", "--list-file", "many", "--dry-run")]
    [InlineData("UPDATE apps SET app = 'no id!'", "search", "paint")]
    [InlineData("UPDATE catalogues SET base = '::'", "catalogue", "refresh")]
    [InlineData(null, "search", "paint")]
    [InlineData(null, "catalogue", "refresh")]
    public async Task A_catalogue_cache_that_is_damaged_inside_is_thrown_away_and_fetched_again(
        string? damage, params string[] command)
    {
        await using var sandbox = Sandbox.WithCatalogues();
        sandbox.Run("install", "cue-ledger", "--yes").ShouldEnd(0);
        File.WriteAllLines(sandbox["many"], Directory.EnumerateFiles(sandbox["guild"], "*.appcard.toml")
            .Select(file => Path.GetFileName(file).Split('.')[0])
            .Concat(Enumerable.Range(0, 20).Select(number => $"house:{number}th")));
        var expected = sandbox.Run(command);
        var cache = sandbox["root", ".cache", "amber-crate", "catalogues.db"];
        if (damage is null)
        {
            var bytes = File.ReadAllBytes(cache);
            Array.Fill(bytes, (byte)'x', 3 * 4096, bytes.Length - (3 * 4096));
            File.WriteAllBytes(cache, bytes);
        }
        else
        {
            using var database = Database.Open(cache);
            database.Run(damage);
        }

        // It is found before anything is shown, and made good at once.
        Check(
            sandbox.Run(command),
            "note: the catalogue cache was damaged: ~/root/.cache/amber-crate/catalogues.db has been deleted; everything "
                + "in it can be downloaded again\n");
        Check(sandbox.Run(command), "");

        void Check(Result result, string says)
        {
            (result.ExitCode, command is ["catalogue", ..] ? expected.Out : result.Out).ShouldBe(
                (expected.ExitCode, expected.Out));
            result.Error.ShouldBe(says + expected.Error);
        }
    }

    [Theory]
    [InlineData(0,
        "note: the catalogue cache was damaged: ~/root/.cache/amber-crate/catalogues.db has been deleted; everything in it "
            + "can be downloaded again\n",
        "catalogue", "drop", "guild")]
    [InlineData(9, "acrate: the catalogue cache was damaged\n", "install", "scrim-paint", "--list-file", "/dev/null",
        "--dry-run")]
    public async Task A_command_begins_once_more_where_it_can(int exitCode, string says, params string[] command)
    {
        await using var sandbox = Sandbox.WithCatalogues();
        var cache = sandbox["root", ".cache", "amber-crate", "catalogues.db"];
        var bytes = File.ReadAllBytes(cache);
        Array.Fill(bytes, (byte)'x', 4096, bytes.Length - 4096);
        File.WriteAllBytes(cache, bytes);
        var result = sandbox.Run(command);
        result.ShouldExitWith(exitCode);
        result.Error.ShouldStartWith(says);
        sandbox.Run("catalogue", "list").ShouldEnd(0).Out.Contains("guild", StringComparison.Ordinal).ShouldBe(exitCode != 0);
    }

    private static ServerFault Fault(string name) => name switch
    {
        "cut" => new ServerFault.CutShort(),
        "stall" => new ServerFault.Stall(),
        "other" => new ServerFault.OtherBytes(),
        _ => new ServerFault.Status(int.Parse(name)),
    };

    [Fact]
    public async Task Links_of_a_package_lead_to_the_system_where_they_can_and_are_told_where_not()
    {
        await using var sandbox = new Sandbox();
        var package = sandbox["package"];
        Directory.CreateDirectory(Path.Combine(package, "DEBIAN"));
        Directory.CreateDirectory(Path.Combine(package, "usr", "bin"));
        File.WriteAllText(
            Path.Combine(package, "DEBIAN", "control"),
            "Package: truss-tally\nVersion: 0.3\nArchitecture: all\nMaintainer: A <a@offstage.example>\nDescription: counts\n");
        File.WriteAllText(Path.Combine(package, "usr", "bin", "tool"), "#!/bin/sh\n");
        File.SetUnixFileMode(Path.Combine(package, "usr", "bin", "tool"), (UnixFileMode)0x1ED);
        File.CreateSymbolicLink(Path.Combine(package, "usr", "own"), "/usr/bin/tool");
        File.CreateSymbolicLink(Path.Combine(package, "usr", "system"), "/usr/bin/env");
        File.CreateSymbolicLink(Path.Combine(package, "usr", "nowhere"), "/usr/share/nowhere/at/all");
        File.CreateSymbolicLink(Path.Combine(package, "usr", "secret"), "/etc/shadow");
        File.CreateSymbolicLink(Path.Combine(package, "usr", "round"), "round");
        if (Mount("dpkg-deb", "--root-owner-group", "-b", package, sandbox["truss.deb"]) != 0) Assert
            .Skip("dpkg-deb is missing here");
        sandbox.ReplaceArtifact("truss-tally", File.ReadAllBytes(sandbox["truss.deb"]), "deb");
        var card = sandbox["guild", "truss-tally.appcard.toml"];
        File.WriteAllText(
            card, File.ReadAllText(card).Replace("path = \"bin/truss-tally\"", "path = \"usr/bin/tool\"",
                StringComparison.Ordinal));
        sandbox.Run("catalogue", "add", "guild", "guild").ShouldEnd(0);
        sandbox.Run("install", "truss-tally", "--yes").ShouldEnd(0).Out.ShouldContain(
            "attention  truss-tally: links in it lead to missing files: usr/nowhere, usr/round, usr/secret\n");
        var shelf = sandbox["root", ".local", "share", "amber-crate", "shelf", "truss-tally", "0.3+any", "usr"];
        new FileInfo(Path.Combine(shelf, "own")).LinkTarget.ShouldBe("../usr/bin/tool");
        new FileInfo(Path.Combine(shelf, "system")).LinkTarget.ShouldBe("/usr/bin/env");
    }

    [Fact]
    public async Task A_terminal_that_is_closed_ends_a_run_as_any_other_signal_does()
    {
        await using var sandbox = await Sandbox.WithServedGuildAsync();
        sandbox.Server.Faults["scrim-paint-4.2.1.tar.xz"] = new ServerFault.Stall();
        string[] arguments = ["install", "scrim-paint", "--yes"];
        using var process = sandbox.Start(arguments);
        await sandbox.WaitForDownloadAsync();
        Process.Start("kill", ["-HUP", $"{process.Id}"])!.EndInTime();
        sandbox.Finish(process, arguments).ShouldExitWith(130).Out.ShouldContain("1 skipped.\n");
        sandbox.Tree("root").ShouldBeEmpty();
    }

    [Fact]
    public async Task Where_inodes_run_out_an_app_is_its_old_or_its_new_version_and_the_report_says_which()
    {
        await using var sandbox = Sandbox.WithCatalogues();
        Directory.CreateDirectory(sandbox["small"]);
        sandbox.Root = "small/root";
        var failures = 0;
        for (var inodes = 20; inodes < 60; inodes += 2)
        {
            if (Mount("mount", "-t", "tmpfs", "-o", $"nr_inodes={inodes},size=8m", "none", sandbox["small"]) != 0)
                Assert.Skip("no right to mount a small tmpfs here");
            try
            {
                if (sandbox.Run("catalogue", "add", "guild", "guild").ExitCode != 0) continue;
                if (sandbox.Run("install", "gantry-plot@2.0.3", "--yes").ExitCode != 0) continue;
                var upgraded = sandbox.Run("install", "gantry-plot@2.1.0", "--yes");
                if (upgraded.ExitCode != 0) failures++;
                var runs = sandbox.RunInstalled("gantry-plot", "--version");
                runs.ShouldBe(upgraded.ExitCode == 0 ? "Gantry Plot 2.1.0\n"
                    : "Gantry Plot 2.0.3\n", upgraded.Out + upgraded.Error);
                var listed = sandbox.Run("list", "--json");
                if (listed.ExitCode == 0)
                    $"Gantry Plot {listed.Json.GetProperty("apps")[0].GetProperty("version")}\n".ShouldBe(runs);
            }
            finally
            {
                Mount("umount", sandbox["small"]);
            }
        }

        failures.ShouldBeGreaterThan(0, "some are too few for an upgrade");
    }

    private static int Mount(string program, params string[] arguments)
    {
        using var process =
            Process.Start(new ProcessStartInfo(program, arguments) { RedirectStandardError = true, UseShellExecute = false })!;
        process.EndInTime();
        return process.ExitCode;
    }
}
