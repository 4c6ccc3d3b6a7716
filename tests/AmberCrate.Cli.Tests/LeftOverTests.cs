using System.Diagnostics;
using AmberCrate.Tests;

namespace AmberCrate.Cli.Tests;

/// <summary>What a run leaves for later: failed, open, not reached; and what it says about it.</summary>
public sealed class LeftOverTests
{
    [Fact]
    public async Task What_failed_is_taken_up_again()
    {
        await using var sandbox = await Sandbox.WithServedGuildAsync();
        sandbox.Run("retry").ShouldPrint(0, "No run has left anything.");
        sandbox.Server.Faults["cue-ledger-1.5.0.zip"] = new AmberCrate.Playhouse.ServerFault.Status(404);
        sandbox.Run("install", "gantry-plot", "cue-ledger@1.x", "--yes").ShouldEnd(1);
        File.ReadAllText(sandbox["root", ".local", "state", "amber-crate", "logs", "00001", "cue-ledger.log"])
            .ShouldContain("ends: failed");
        sandbox.Run("retry", "--yes").ShouldEnd(6).Out.ShouldContain("next: acrate retry 2\n");
        sandbox.Server.Faults.Clear();
        var retried = sandbox.Run("retry", "1", "--yes").ShouldEnd(0);
        retried.Out.ShouldStartWith("run 1: acrate install gantry-plot cue-ledger@1.x --yes\n");
        retried.Out.ShouldContain("install  cue-ledger  1.5.0  guild       1.2 KiB    977 B  follows @1.x");
        retried.Out.ShouldNotContain("gantry-plot 2.1.0");
        sandbox.Run("retry", "3").ShouldPrint(0, "Run 3 has left nothing.");
        sandbox.Run("retry", "99").ShouldFail(3, "acrate: there is no run 99 on record\n  next: acrate runs");
        sandbox.Run("retry", "first").ShouldFail(
            2,
            "acrate: \"first\" is not the number of a run\n  why: expected a whole number from 1\n  next: the end of a run "
                + "names it");
    }

    [Fact]
    public async Task The_version_that_a_bundle_named_is_not_forgotten()
    {
        await using var sandbox = await Sandbox.WithServedGuildAsync();
        File.WriteAllText(
            sandbox["a.bundle.toml"], "bundle = 1\n[[apps]]\nreference = \"guild:scrim-paint\"\nversion = \"4.1.2\"\n");
        sandbox.Server.Faults["scrim-paint-4.1.2.tar.xz"] = new AmberCrate.Playhouse.ServerFault.Status(404);
        sandbox.Run("equip", "a.bundle.toml", "--yes").ShouldEnd(6);
        sandbox.Server.Faults.Clear();
        sandbox.Run("retry", "--yes").ShouldEnd(0).Out.ShouldContain("1 of 1  done       scrim-paint 4.1.2\n");
    }

    [Fact]
    public async Task What_was_said_about_a_file_need_not_be_said_again()
    {
        await using var sandbox = await Sandbox.WithServedGuildAsync();
        var (changed, scrim) =
            (File.ReadAllBytes(sandbox["guild", "files", "scrim-paint-4.2.0.tar.xz"]), "scrim-paint-4.2.1.tar.xz");
        sandbox.Server.Faults[scrim] = new AmberCrate.Playhouse.ServerFault.Status(404);
        sandbox.Run(
            "install", "scrim-paint", "--yes", "--accept-digest",
            $"scrim-paint=sha256:{Convert.ToHexStringLower(System.Security.Cryptography.SHA256.HashData(changed))}").ShouldEnd(6);
        sandbox.Server.Faults[scrim] = new AmberCrate.Playhouse.ServerFault.OtherFile(changed);
        var retried = sandbox.Run("retry", "--yes").ShouldEnd(0);
        retried.Out.ShouldContain("as you stated");
        sandbox.RunInstalled("scrim-paint", "--version").ShouldBe("Scrim Paint 4.2.0\n");
    }

    [Fact]
    public async Task An_app_that_is_open_is_left_alone_until_it_is_closed()
    {
        await using var sandbox = Sandbox.WithCatalogues();
        sandbox.Prepare.Install("cue-ledger", "scrim-paint@4.1.2");
        sandbox.PublishLater();
        sandbox.Prepare.Refresh();

        // A program of its own on the shelf, which waits: what counts is where the executable lies.
        var program = Path.Combine(
            Directory.GetDirectories(sandbox["root", ".local", "share", "amber-crate", "shelf", "cue-ledger"]).Single(), "bin",
            "waits");
        File.Copy("/bin/sleep", program);
        using (var open = Process.Start(program, "60"))
        {
            var upgraded = sandbox.Run("upgrade", "--yes");
            upgraded.ShouldEnd(1).Out.ShouldContain($"""
                in-use  cue-ledger 1.5.0
                  why: process {open.Id}, waits
                  next: close it; --even-in-use changes it anyway
                """);
            sandbox.RunInstalled("cue-ledger", "--version").ShouldBe("Cue Ledger 1.5.0\n");
            sandbox.Run("uninstall", "cue-ledger", "--yes").ShouldEnd(1);
            sandbox.Run("upgrade", "cue-ledger", "--yes", "--even-in-use").ShouldEnd(0);
            sandbox.RunInstalled("cue-ledger", "--version").ShouldBe("Cue Ledger 1.6.0\n");
            File.Exists(program).ShouldBeTrue("the old version stays on the shelf");
            sandbox.Run("uninstall", "cue-ledger", "--yes", "--even-in-use").ShouldEnd(0).Out.ShouldContain(
                "attention  cue-ledger: cue-ledger is still open; its files stay until a later run finds it closed\n");
            File.Exists(program).ShouldBeTrue();
            sandbox.Prepare.Install("gantry-plot");
            File.Exists(program).ShouldBeTrue("it is still open");
            open.Kill();
            open.EndInTime();
        }

        sandbox.Run("uninstall", "gantry-plot", "--yes").ShouldEnd(0);
        File.Exists(program).ShouldBeFalse();
    }

    [Fact]
    public async Task What_a_person_has_edited_is_left_with_a_word()
    {
        await using var sandbox = Sandbox.WithCatalogues();
        sandbox.Prepare.Install("gantry-plot");
        var entry = sandbox["root", ".local", "share", "applications", "gantry-plot.desktop"];
        File.AppendAllText(entry, "Hidden=true\n");
        sandbox.PublishLater();
        sandbox.Prepare.Refresh();
        const string Word =
            "attention  gantry-plot: ~/root/.local/share/applications/gantry-plot.desktop was changed by hand and has been "
                + "left as it is\n";
        sandbox.Run("upgrade", "--yes").ShouldEnd(0).Out.ShouldContain(Word);
        File.ReadAllText(entry).ShouldEndWith("Hidden=true\n");
        sandbox.Run("uninstall", "gantry-plot", "--yes").ShouldEnd(0).Out.ShouldContain(Word);
        File.ReadAllText(entry).ShouldEndWith("Hidden=true\n");
    }

    [Fact]
    public async Task Where_the_shell_does_not_look_the_way_to_start_is_said()
    {
        await using var sandbox = Sandbox.WithCatalogues();
        sandbox.Variables["PATH"] = "/usr/bin";
        sandbox.Run("install", "cue-ledger", "--yes").ShouldEnd(0).Out.ShouldEndWith(
            "not on PATH: ~/root/.local/bin; start cue-ledger as ~/root/.local/bin/cue-ledger\nnext: add to ~/.profile, and "
                + "sign in again: export PATH=\"~/root/.local/bin:$PATH\"\n");
    }

    [Fact]
    public async Task The_desktop_is_told_once_a_run_by_the_systems_own_programs()
    {
        await using var sandbox = Sandbox.WithCatalogues();
        foreach (var (name, end) in new[] { ("update-desktop-database", 0), ("gtk-update-icon-cache", 3) })
            sandbox.SystemPrograms[name] =
                $"#!/bin/sh\necho \"{name} $*\" >> '{sandbox["told"]}'\necho trouble >&2\nexit {end}\n";

        var run = sandbox.Run("install", "gantry-plot", "scrim-paint", "--yes").ShouldEnd(0);
        run.Out.ShouldContain("afterwards: update-desktop-database, gtk-update-icon-cache\n");
        var data = sandbox["root", ".local", "share"];
        File.ReadAllLines(sandbox["told"])
            .ShouldBe(
                [$"update-desktop-database -q {data}/applications", $"gtk-update-icon-cache -q -t -f {data}/icons/hicolor"]);
        File.ReadAllText(sandbox["root", ".local", "state", "amber-crate", "logs", "00001", "run.log"])
            .ShouldContain("gtk-update-icon-cache: ended with 3: trouble\n");
        sandbox.Run("install", "flyrope-terminal", "--dry-run").ShouldEnd(0).Out.ShouldNotContain("update-mime-database");
    }

    [Fact]
    public async Task Another_run_is_waited_for_as_long_as_is_said()
    {
        await using var sandbox = await Sandbox.WithServedGuildAsync();
        sandbox.Server.Faults["scrim-paint-4.2.1.tar.xz"] = new AmberCrate.Playhouse.ServerFault.Stall();
        sandbox.Variables["ACRATE_NETWORK_TIMEOUT"] = "4";
        using var first = sandbox.Start("install", "scrim-paint", "--yes");
        while (sandbox.Server.Requests.All(request => !request.Path.Contains("scrim-paint-4", StringComparison.Ordinal)))
            await Task.Delay(20, TestContext.Current.CancellationToken);
        sandbox.Run("install", "cue-ledger", "--yes", "--wait", "0").ShouldRefuse(8, "another run is changing this machine");
        first.Kill(entireProcessTree: false);
        first.EndInTime();
        using var second = sandbox.Start("install", "cue-ledger", "--yes", "--wait", "60");
        sandbox.Finish(second).ShouldEnd(0);
        sandbox.Run("install", "cue-ledger", "--yes", "--wait", "soon")
            .ShouldFail(2, "acrate: --wait is \"soon\"\n  why: expected a number of seconds from 0 to 86400");
    }
}
