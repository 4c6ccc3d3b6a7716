using System.Diagnostics;
using AmberCrate.Tests;

namespace AmberCrate.Cli.Tests;

/// <summary>What is there, what is due, and what can be put on a timer.</summary>
public sealed class LookingTests
{
    [Fact]
    public async Task A_security_fix_comes_first_and_can_be_taken_alone()
    {
        await using var sandbox = await WithLaterAsync(
            ("cue-ledger", "version = \"1.6.0\"\n", "version = \"1.6.0\"\nurgency = \"critical\"\n"));
        var due = sandbox.Run("due", "--notes").ShouldEnd(0).Out;
        due.ShouldStartWith("2 of 2 apps are due, 1 security fix\n");
        due.Split('\n')[2].ShouldMatch("^cue-ledger .* security fix$");
        due.ShouldContain("cue-ledger 1.6.0  2026-11-09, security fix\n    Tells where two cues");
        sandbox.Run("upgrade", "--security-only", "--yes").ShouldEnd(0).Out.ShouldContain(
            "1 done.\nstill due  scrim-paint 4.2.1, 5.0.0 is available: left out\n");
        sandbox.Run("upgrade", "--security-only", "--yes").ShouldPrint(0, "Nothing to do.");
        sandbox.Run("due", "--check").ShouldEnd(10);
    }

    [Fact]
    public async Task An_upgrade_that_the_system_lacks_something_for_is_announced_and_left_out()
    {
        const string expects = "system = [{ kind = \"library\", name = \"libgauze.so.2\" }]\n";
        await using var sandbox = await WithLaterAsync((
            "cue-ledger", "version = \"1.6.0\"\n",
            $"version = \"1.6.0\"\n{expects}"));
        sandbox.Run("due").ShouldEnd(0).Out.ShouldMatch(
            "\ncue-ledger .* this system lacks libgauze.so.2, so an upgrade leaves it out\n");
        sandbox.Run("due").Out.ShouldEndWith("next: acrate upgrade\n");
        sandbox.Run("due", "cue").Out.ShouldEndWith("next: acrate about cue-ledger\n");
        sandbox.Run("about", "cue-ledger").ShouldEnd(0).Out.ShouldContain("system lacks   libgauze.so.2");
        sandbox.Run("due", "cue", "--json").ShouldEnd(0).Json.GetProperty("apps")[0].GetProperty("lacks")[0].GetProperty("name")
            .GetString().ShouldBe("libgauze.so.2");
        sandbox.Run("upgrade", "--yes").ShouldExitWith(1);
        sandbox.Run("list", "cue").ShouldEnd(0).Out.ShouldContain("1.5.0");
    }

    [Fact]
    public async Task A_withdrawn_release_is_not_installed_and_those_who_have_it_are_told()
    {
        await using var sandbox = await WithLaterAsync(
            ("scrim-paint", "version = \"5.0.0\"\n", "version = \"5.0.0\"\nwithdrawn = \"It loses sketches.\"\n"),
            ("scrim-paint", "version = \"4.2.1\"\n", "version = \"4.2.1\"\nwithdrawn = \"It is slow.\"\n"));
        sandbox.Run("due", "scrim").ShouldEnd(0).Out
            .ShouldMatch("4.2.1 +4.2.2 .*4.2.1 is withdrawn: It is slow.; follows @stable\n");
        sandbox.Run("check").ShouldEnd(0).Out.ShouldContain("guild has withdrawn scrim-paint 4.2.1: It is slow.");
        sandbox.Run("install", "scrim-paint@5.0.0", "--yes").ShouldRefuse(3, "guild has withdrawn scrim-paint 5.0.0");
        sandbox.Run("upgrade", "--yes").ShouldEnd(0);
        sandbox.RunInstalled("scrim-paint", "--version").ShouldBe("Scrim Paint 4.2.2\n");
    }

    [Theory]
    [InlineData("echo 'Cue Ledger 1.6.0'", "1.6.0", "")]
    [InlineData("exit 3", "1.5.0", "its command ended with 3")]
    public async Task An_app_that_changes_by_itself_is_shown_as_it_is_and_upgraded_only_by_name(
        string script, string version, string note)
    {
        if (!File.Exists("/usr/bin/bwrap")) Assert.Skip("a command is asked for its version only where it can be confined");
        await using var sandbox = await WithLaterAsync(("cue-ledger", "keywords =",
            "self_updating = true\nversion_source = { command = \"cue-ledger\", arguments = [\"--version\"] }\nkeywords ="));
        File.WriteAllText(
            sandbox["root", ".local", "share", "amber-crate", "shelf", "cue-ledger", "1.5.0+any", "bin", "cue-ledger"],
            $"#!/bin/sh\n{script}\n");
        var list = sandbox.Run("list", "cue").ShouldExitWith(0);
        list.Out.ShouldMatch($"\ncue-ledger +{version.Replace(".", "\\.", StringComparison.Ordinal)} ");
        if (note.Length > 0) list.Error.ShouldContain(note);
        else list.Error.ShouldBeEmpty();
        sandbox.Run("upgrade", "--yes").ShouldExitWith(0);
        var due = sandbox.Run("due", "cue").ShouldExitWith(0).Out;
        due.Contains("updates itself  cue-ledger 1.5.0, 1.6.0 is available", StringComparison.Ordinal)
            .ShouldBe(version == "1.5.0");
        if (version == "1.5.0")
            sandbox.Run("upgrade", "cue-ledger", "--yes").ShouldExitWith(0).Out.ShouldContain("1 done.");
    }

    [Fact]
    public async Task Metrics_are_what_promtool_accepts_and_are_written_whole_or_not_at_all()
    {
        await using var sandbox = await WithLaterAsync();
        sandbox.Run("due", "cue", "--metrics", "acrate.prom").ShouldEnd(0);
        var text = File.ReadAllText(sandbox["acrate.prom"]);
        text.ShouldContain("\nacrate_apps_installed 2\n");
        text.ShouldContain("\nacrate_apps_due 2\n");
        text.ShouldEndWith("# EOF\n");
        sandbox.Run("due", "--metrics", "none/acrate.prom").ShouldRefuse(9, "none/acrate.prom cannot be written");
        if (!File.Exists("/usr/bin/promtool")) Assert.Skip("promtool is not there");
        using var promtool = Process.Start(
            new ProcessStartInfo("/bin/sh", ["-c", $"promtool check metrics < {sandbox["acrate.prom"]} 2>&1"])
            {
                RedirectStandardOutput = true, UseShellExecute = false,
            })!;
        promtool.ReadOutput().ShouldBeEmpty();
        promtool.EndInTime();
        promtool.ExitCode.ShouldBe(0);
    }

    [Fact]
    public async Task Lists_are_narrowed_by_mark_type_and_catalogue_and_sorted()
    {
        await using var sandbox = await WithLaterAsync();
        sandbox.Prepare.Install("poster-cut");
        string Ids(params string[] arguments) => string.Join(
            ' ', sandbox.Run(["list", "--json", .. arguments]).ShouldEnd(0).Json.GetProperty("apps").EnumerateArray()
                .Select(app => app.GetProperty("id").GetString()));
        Ids().ShouldBe("cue-ledger poster-cut scrim-paint");
        Ids("--mark", "outdated").ShouldBe("cue-ledger scrim-paint");
        Ids("--type", "font").ShouldBe("poster-cut");
        Ids("--catalogue", "house").ShouldBe("poster-cut");
        Ids("--sort", "catalogue").ShouldBe("cue-ledger scrim-paint poster-cut");
        Ids("--sort", "installed").ShouldStartWith("poster-cut");
        sandbox.Run("list", "--sizes", "--places").ShouldEnd(0).Out.ShouldContain("shelf/poster-cut/");
        sandbox.Run("list", "--mark", "pinned").ShouldRefuse(3, "no installed app fits these options");
        sandbox.Run("list", "--mark", "nice").ShouldRefuse(2, "--mark \"nice\" is not known");
    }

    [Fact]
    public async Task What_others_put_here_is_matched_adopted_and_never_touched()
    {
        await using var sandbox = new Sandbox();
        sandbox.MakeImage();
        var card = sandbox["guild", "cue-ledger.appcard.toml"];
        File.WriteAllText(card, File.ReadAllText(card).Replace(
            "keywords =", "system_packages = [\"cue-ledger-gtk\"]\nkeywords =", StringComparison.Ordinal));
        Write(sandbox["root", "var/lib/dpkg/status"], """
            Package: cue-ledger-gtk
            Status: install ok installed
            Version: 1:1.4-2

            Package: gauze
            Essential: yes
            Status: install ok installed
            Version: 2.39-1

            """);
        Write(sandbox["root", "usr/share/applications/scrim-paint.desktop"],
            "[Desktop Entry]\nType=Application\nName=Scrim Paint\nExec=/opt/scrim/scrim-paint\n");
        var image = System.Text.Encoding.UTF8.GetBytes("not really an image");
        sandbox.ReplaceArtifact("truss-tally", image, "appimage");
        File.WriteAllBytes(Written(sandbox["root", "opt", "Truss.AppImage"]), image);
        File.WriteAllText(sandbox["root", "opt", "Other.AppImage"], "of the same size as");
        sandbox.Run("catalogue", "add", "guild", "guild", "--all-users").ShouldEnd(0);
        sandbox.Run("list", "--observed", "--all-users").ShouldPrint(0, """
            5 programs and packages from others, 3 of them in a catalogue
            name            version  what            catalogue                             title        remark
            scrim-paint              menu entry      scrim-paint 4.2.1 in guild            Scrim Paint  ~/root/usr/share/applications/scrim-paint.desktop
            Truss                    AppImage        truss-tally 0.3 in guild                           ~/root/opt/Truss.AppImage
            cue-ledger-gtk  1:1.4-2  system package  older than cue-ledger 1.5.0 in guild
            Other                    AppImage        in no catalogue                                    ~/root/opt/Other.AppImage
            gauze           2.39-1   system package  in no catalogue                                    protected: the system needs it
            catalogue refreshed just now
            next: acrate adopt --all-users scrim-paint
            """);
        sandbox.Run("about", "cue-ledger", "--all-users").ShouldEnd(0).Out.ShouldContain(
            "Also here as system package cue-ledger-gtk 1:1.4-2.");
        sandbox.Run("install", "cue-ledger", "--all-users", "--dry-run").ShouldEnd(0).Out.ShouldContain(
            "also here as system package cue-ledger-gtk 1:1.4-2");
        sandbox.Run("adopt", "cue-ledger-gtk", "--all-users", "--yes").ShouldEnd(0).Out.ShouldContain(
            "remains    system package cue-ledger-gtk 1:1.4-2; its owner removes it by: apt-get remove cue-ledger-gtk\n");
        sandbox.Run("list", "--observed", "cue", "--all-users").ShouldEnd(0).Out
            .ShouldContain("also installed here as cue-ledger");
        sandbox.Run("adopt", "gauze", "--all-users", "--yes").ShouldRefuse(3, "no software here is \"gauze\" of a catalogue");
        sandbox.Run("list", "--observed", "juggler", "--all-users").ShouldRefuse(
            3, "no software that others put here has \"juggler\" in its name");
    }

    [Fact]
    public async Task A_task_on_a_timer_keeps_to_its_window_and_notes_how_it_ended()
    {
        await using var sandbox = await WithLaterAsync();
        sandbox.Run("schedule", "show").ShouldPrint(0, "Nothing is on a timer.");
        var now = DateTime.Now;
        string Window(int from, int to) => $"{now.AddHours(from):HH:mm}-{now.AddHours(to):HH:mm}";
        sandbox.Run("schedule", "set", "upgrade", "--at", "daily", "--window", Window(2, 3)).ShouldEnd(0);
        sandbox.Run("schedule", "run", "upgrade").ShouldEnd(0).Out.ShouldStartWith("acrate: outside of the maintenance window");
        sandbox.Run("schedule", "set", "upgrade", "--at", "daily", "--window", Window(-2, 3), "--notify").ShouldEnd(0);
        sandbox.Run("schedule", "run", "upgrade").ShouldPrint(
            0, "acrate: run 3: done cue-ledger 1.6.0, scrim-paint 5.0.0");
        sandbox.Run("schedule", "run", "upgrade").ShouldPrint(0, "acrate: nothing to upgrade");
        var shown = sandbox.Run("schedule", "show", "--json").ShouldEnd(0).Json.GetProperty("schedules")[0];
        shown.GetProperty("last_outcome").GetString().ShouldBe("nothing to upgrade");
        sandbox.Run("schedule", "run", "due").ShouldRefuse(3, "due is not on a timer");
        sandbox.Run("schedule", "set", "dance", "--at", "daily").ShouldRefuse(2, "\"dance\" cannot be put on a timer");
        sandbox.Run("schedule", "set", "due", "--at", "daily", "--window", "22").ShouldRefuse(2,
            "--window \"22\" cannot be used");
        sandbox.Run("schedule", "clear").ShouldPrint(0, "Nothing is on a timer.");
        sandbox.Run("schedule", "clear").ShouldRefuse(3, "nothing is on a timer");
        Directory.GetFiles(sandbox["root", ".config", "systemd", "user"]).ShouldBeEmpty();
    }

    [Fact]
    public async Task Whoever_is_signed_in_is_told_once_a_run_and_only_if_something_happened()
    {
        await using var sandbox = await WithLaterAsync();
        sandbox.SystemPrograms["busctl"] = $"#!/bin/sh\nprintf '%s|' \"$@\" >> {sandbox["told"]}";
        sandbox.Variables["DBUS_SESSION_BUS_ADDRESS"] = "unix:path=/nowhere";
        sandbox.Run("schedule", "set", "upgrade", "--at", "daily", "--notify").ShouldExitWith(0);
        for (var turn = 0; turn < 2; turn++) sandbox.Run("schedule", "run", "upgrade").ShouldExitWith(0);
        File.ReadAllText(sandbox["told"]).ShouldBe(
            "--address=unix:path=/nowhere|--timeout=3|call|org.freedesktop.Notifications|/org/freedesktop/Notifications|"
                + "org.freedesktop.Notifications|Notify|susssasa{sv}i|acrate|0|system-software-update|acrate upgrade|"
                + "run 3: done cue-ledger 1.6.0, scrim-paint 5.0.0|0|0|15000|");
    }

    [Fact]
    public async Task Settings_stay_unless_they_are_to_go_and_what_is_protected_stays()
    {
        await using var sandbox = await WithLaterAsync(
            ("cue-ledger", "keywords =", "settings = [\"~/.config/cue-ledger\", \"~/.cache/cue\"]\nkeywords ="),
            ("scrim-paint", "keywords =", "protected = true\nkeywords ="));
        Write(sandbox["root", ".config/cue-ledger/cues"], "1");
        Directory.CreateDirectory(sandbox["kept"]);
        File.WriteAllText(sandbox["kept", "mine"], "mine");
        Directory.CreateDirectory(sandbox["root", ".cache"]);
        Directory.CreateSymbolicLink(sandbox["root", ".cache", "cue"], sandbox["kept"]);
        sandbox.Run("uninstall", "cue-ledger", "--dry-run").ShouldEnd(0).Out.ShouldContain(
            "its settings stay: ~/root/.config/cue-ledger, ~/root/.cache/cue\n");
        var both = sandbox.Run("uninstall", "cue-ledger", "scrim-paint", "--with-settings", "--yes").ShouldExitWith(1);
        both.Out.ShouldContain("scrim-paint is protected and is not uninstalled");
        both.Out.ShouldContain("1 done, 1 failed.");
        Directory.Exists(sandbox["root", ".config", "cue-ledger"]).ShouldBeFalse();
        new FileInfo(sandbox["root", ".cache", "cue"]).Exists.ShouldBeFalse();
        File.ReadAllText(sandbox["kept", "mine"]).ShouldBe("mine");
        sandbox.Run("uninstall", "scrim-paint", "--yes").ShouldRefuse(4, "scrim-paint is protected and is not uninstalled");
    }

    [Fact]
    public async Task It_is_waited_for_an_app_to_be_closed_while_the_others_go_on()
    {
        await using var sandbox = await WithLaterAsync();
        var program = sandbox["root", ".local", "share", "amber-crate", "front", "cue-ledger", "bin", "cue-ledger"];
        File.WriteAllText(program, "#!/bin/sh\nsleep 3\n");
        using var open = Process.Start(program);
        var upgrade = sandbox.Run("upgrade", "--wait-closed", "1", "--yes").ShouldEnd(0);
        upgrade.Out.ShouldContain("2 done");
        upgrade.Out.IndexOf("scrim-paint 5.0.0\n", StringComparison.Ordinal).ShouldBeLessThan(
            upgrade.Out.IndexOf("done       cue-ledger 1.6.0\n", StringComparison.Ordinal));
        open.HasExited.ShouldBeTrue();
        sandbox.Run("upgrade", "--wait-closed", "soon").ShouldRefuse(2, "--wait-closed \"soon\" cannot be used");
    }

    /// <summary>A sandbox with two outdated apps, and cards of the guild in which texts are replaced before they are
    /// added.</summary>
    private static Task<Sandbox> WithLaterAsync(params (string App, string Text, string Instead)[] changes)
    {
        var sandbox = Sandbox.WithCatalogues();
        Change(change => !change.Instead.Contains("withdrawn", StringComparison.Ordinal));
        sandbox.Prepare.Refresh();
        sandbox.Prepare.Install("cue-ledger", "scrim-paint@4.2.1");
        sandbox.PublishLater();
        Change(_ => true);
        sandbox.Prepare.Install("scrim-paint@stable");
        sandbox.Prepare.Refresh();
        return Task.FromResult(sandbox);

        void Change(Func<(string App, string Text, string Instead), bool> isWanted)
        {
            foreach (var (app, text, instead) in changes.Where(isWanted))
            {
                var card = sandbox["guild", $"{app}.appcard.toml"];
                File.WriteAllText(card, File.ReadAllText(card).Replace(text, instead, StringComparison.Ordinal));
            }
        }
    }

    private static void Write(string path, string text) => File.WriteAllText(Written(path), text);

    private static string Written(string path)
    {
        Directory.CreateDirectory(Path.GetDirectoryName(path)!);
        return path;
    }
}
