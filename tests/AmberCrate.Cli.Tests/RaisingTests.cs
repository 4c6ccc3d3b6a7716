using System.Diagnostics;
using System.Text.RegularExpressions;
using AmberCrate.Engine.Storage;
using AmberCrate.Tests;

namespace AmberCrate.Cli.Tests;

/// <summary>
/// The folders of all users belong to a user who may not write to them, the program runs as that user, and a stand-in for the
/// system's
/// way of raising rights lets them be written.
/// </summary>
public sealed partial class RaisingTests : IAsyncDisposable
{
    private const string User = "23456";

    private readonly Sandbox _sandbox = Sandbox.WithCatalogues();

    public RaisingTests()
    {
        _sandbox.MakeImage();
        _sandbox.Run("catalogue", "add", "--all-users", "guild", "guild").ShouldEnd(0);
        foreach (var name in new[] { "sudo", "run0", "pkexec" }) _sandbox.SystemPrograms[name] = null;
        Directory.CreateDirectory(_sandbox["home"]);
        Do("cp", "-r", Path.GetDirectoryName(Sandbox.Program)!, _sandbox["built"]);
        if (Environment.IsPrivilegedProcess) Do("chown", "-R", $"{User}:{User}", _sandbox.Folder);
        Do("chmod", "-R", "a-w", _sandbox["root"]);
    }

    [Theory]
    [InlineData("", "none of sudo, run0, pkexec is on this machine", "as root: ")]
    [InlineData("none", "ACRATE_RAISE says that rights are not raised", "as root: ")]
    [InlineData("sudo", "there is no terminal on which sudo could ask for a password", "sudo ")]
    [InlineData("pkexec", "pkexec, which ACRATE_RAISE names, is not on this machine", "as root: ")]
    public void Without_a_way_or_a_terminal_the_command_to_use_is_named(string way, string why, string how)
    {
        if (way.Length > 0) LetSudo("exit 99");
        var (ended, output) = RunAsUser(way, terminal: false, "install", "--all-users", "scrim-paint");
        ended.ShouldBe(7, output);
        output.ShouldContain(
            $"~/root/var/lib/amber-crate cannot be written\n  why: {why}; nothing has been changed\n  next: "
                + $"{how}~/built/acrate install --all-users scrim-paint --yes --root ~/root\n");
        output.ShouldNotContain("plan ");
    }

    [Fact]
    public void A_way_that_is_none_is_refused()
    {
        var (ended, output) = RunAsUser("wings", terminal: false, "install", "--all-users", "scrim-paint");
        ended.ShouldBe(2, output);
        output.ShouldContain("acrate: ACRATE_RAISE is \"wings\"\n  why: expected one of auto, sudo, run0, pkexec, none\n");
    }

    [Fact]
    public void Looking_takes_no_more_rights()
    {
        var (ended, output) = RunAsUser("none", terminal: false, "install", "--all-users", "scrim-paint", "--dry-run");
        ended.ShouldBe(7, output);
        output.ShouldContain("administrator rights are missing: ~/root/var/lib/amber-crate cannot be written\n");
        RunAsUser("none", terminal: false, "search", "--all-users", "scrim").Ended.ShouldBe(0);
        RunAsUser("none", terminal: false, "list", "--all-users").Ended.ShouldBe(0);

        // One's own apps too, where nothing can be written: as on a file system that is mounted to be read only.
        RunAsUser("none", terminal: false, "search", "scrim").Ended.ShouldBe(0);
        var (refused, why) = RunAsUser("none", terminal: false, "install", "scrim-paint", "--yes");
        refused.ShouldBe(7, why);
    }

    [Fact]
    public void Records_that_may_not_be_read_are_not_told_as_an_empty_machine()
    {
        if (!Environment.IsPrivilegedProcess) Assert.Skip("it takes another user");
        var state = _sandbox["root", ".local", "state"];
        Directory.CreateDirectory(Path.Combine(state, "amber-crate"));
        Do("chmod", "0700", state);
        Do("chown", "-R", "root:root", state);
        foreach (string[] command in new[]
        {
            ["list"], ["due", "--check"], (string[])["export", "-o", _sandbox["out.bundle.toml"]],
        })
        {
            var (ended, output) = RunAsUser("none", terminal: false, command);
            ended.ShouldBe(7, output);
            output.ShouldContain("the records ~/root/.local/state/amber-crate/records.db cannot be opened\n");
        }

        File.Exists(_sandbox["out.bundle.toml"]).ShouldBeFalse();
    }

    [Theory]
    [InlineData("PRAGMA user_version=1")]
    [InlineData(null)]
    public void A_cache_that_a_person_may_not_make_anew_does_not_hide_what_is_installed(string? change)
    {
        var cache = _sandbox["root", "var", "cache", "amber-crate", "catalogues.db"];
        Do("chmod", "-R", "u+w", _sandbox["root"]);
        if (change is null) File.WriteAllText(cache, new string('x', 9000));
        else using (var database = Database.Open(cache)) database.Run(change);
        if (Environment.IsPrivilegedProcess) Do("chown", "-R", $"{User}:{User}", _sandbox["root"]);
        Do("chmod", "-R", "a-w", _sandbox["root"]);
        var (ended, output) = RunAsUser("none", terminal: false, "list", "--all-users");
        ended.ShouldBe(0, output);
        output.ShouldContain(
            "note: ~/root/var/cache/amber-crate/catalogues.db is damaged or from another version of acrate, and you may not "
                + "replace it: nothing is known of its catalogues until a user who may write there runs acrate catalogue refresh "
                + "--all-users\n");
        RunAsUser("none", terminal: false, "search", "--all-users", "scrim").Ended.ShouldBe(3);
    }

    [Fact]
    public void The_very_plan_that_was_shown_is_carried_out_with_more_rights_after_one_question()
    {
        LetSudo(
            $"echo \"$@\" >> {_sandbox["asked"]}", "while [ \"$1\" != -- ]; do shift; done", "shift",
            $"/bin/chmod -R u+w {_sandbox["root"]}", "exec \"$@\"");
        var (ended, output) = RunAsUser("", terminal: true, "install", "--all-users", "scrim-paint", "gantry-plot");
        ended.ShouldBe(0, output);
        Question().Count(output).ShouldBe(1, output);
        output.ShouldContain("needs administrator rights, by sudo\n");
        output.ShouldContain("2 done.\n");
        Regex.Count(output, "^2 to install", RegexOptions.Multiline | RegexOptions.ExplicitCapture, TimeSpan.FromSeconds(1))
            .ShouldBe(1, "the plan is shown once, by the first of the two processes");
        var asked =
            File.ReadAllLines(_sandbox["asked"]).ShouldHaveSingleItem().Replace(_sandbox.Folder, "~", StringComparison.Ordinal);
        asked.ShouldMatch(
            "^--preserve-env=ACRATE_TOKEN_GUILD -- ~/built/acrate install --all-users scrim-paint gantry-plot --yes --as-shown "
                + "sha256:[0-9a-f]{64} --root ~/root$");
        RunAsUser("none", terminal: false, "list", "--all-users").Output.ShouldStartWith("2 apps, 0 outdated\n");
    }

    [Fact]
    public void A_person_who_may_not_is_told_that_nothing_has_been_changed()
    {
        LetSudo("exit 1");
        var (ended, output) = RunAsUser("sudo", terminal: true, "catalogue", "drop", "--all-users", "guild");
        ended.ShouldBe(7, output);
        output.ShouldContain(
            "acrate: sudo has not let acrate run with more rights\n  why: it ended with 1; nothing has been changed\n");
        LetSudo("exit 3");
        RunAsUser("sudo", terminal: true, "catalogue", "drop", "--all-users", "guild").Ended.ShouldBe(
            3, "what the program ended with is passed on");
    }

    [Fact]
    public void Nobody_is_asked_for_rights_where_there_is_nothing_to_do()
    {
        LetSudo("exit 99");
        var (ended, output) = RunAsUser("sudo", terminal: true, "upgrade", "--all-users");
        ended.ShouldBe(0, output);
        output.ShouldContain("Nothing to do.\n");
    }

    [Fact]
    public void A_person_s_apps_are_not_put_into_the_home_of_another()
    {
        Assert.SkipUnless(Environment.IsPrivilegedProcess, "only root can give a folder to somebody else");
        Do("chown", "-R", "34567", _sandbox["home"]);
        _sandbox.Variables["ACRATE_ROOT"] = "";
        var refused = _sandbox.Run("catalogue", "add", "guild", "guild");
        refused.ShouldExitWith(7);
        refused.Error.ShouldBe("""
            acrate: ~/home belongs to another user
              why: its owner is user 34567, this is user 0; nothing has been changed
              next: run it as that user, without sudo, or add --all-users to install for all users

            """);
        Directory.EnumerateFileSystemEntries(_sandbox["home"]).ShouldBeEmpty();
    }

    public ValueTask DisposeAsync()
    {
        Do("chmod", "-R", "u+w", _sandbox.Folder);
        return _sandbox.DisposeAsync();
    }

    [GeneratedRegex(@"Go ahead, as root by sudo\? \[y/n\]", RegexOptions.None, 1000)]
    private static partial Regex Question();

    [GeneratedRegex(@"\x1b(\[[0-9;?]*[A-Za-z]|[=>])", RegexOptions.ExplicitCapture, 1000)]
    private static partial Regex Control();

    private void LetSudo(params string[] lines) =>
        _sandbox.SystemPrograms["sudo"] = string.Join('\n', ["#!/bin/sh", .. lines]);

    /// <summary>Runs the program as the user, on a terminal of its own where one is wanted, with "y" for every answer.</summary>
    private (int Ended, string Output) RunAsUser(string way, bool terminal, params string[] arguments)
    {
        string[] program = [_sandbox["built", Path.GetFileName(Sandbox.Program)], .. arguments];
        string[] shown = terminal ? ["/usr/bin/script", "-qefc", string.Join(' ', program), "/dev/null"] : program;
        _sandbox.User = User;
        string[] all = [.. _sandbox.Around(), .. shown];
        _sandbox.User = null;
        var start = new ProcessStartInfo(all[0], all[1..])
        {
            RedirectStandardInput = true, RedirectStandardOutput = true, RedirectStandardError = true, UseShellExecute = false,
            WorkingDirectory = _sandbox.Folder,
        };
        foreach (var name in start.Environment.Keys.Where(name => name.EndsWith("_proxy", StringComparison.OrdinalIgnoreCase)
            || name.StartsWith("ACRATE_", StringComparison.Ordinal)
            || name is "NO_COLOR").ToList()) start.Environment.Remove(name);
        foreach (var (name, value) in new[]
        {
            ("HOME", _sandbox["home"]), ("ACRATE_ROOT", _sandbox["root"]), ("ACRATE_RAISE", way),
            ("ACRATE_TOKEN_GUILD", "secret"), ("PATH", "/usr/bin:/bin"), ("SHELL", "/bin/sh"), ("TERM", "xterm"),
        })
            start.Environment[name] = value;
        using var process = Process.Start(start)!;
        if (terminal) process.StandardInput.Write("y\n");
        if (!terminal) process.StandardInput.Close();
        var error = process.ReadErrorsAsync();
        var output = process.ReadOutput();
        process.EndInTime();
        return (process.ExitCode, Control().Replace((output + error.Result).Replace("\r\n", "\n", StringComparison.Ordinal), "")
            .Replace(_sandbox.Folder, "~", StringComparison.Ordinal));
    }

    private static void Do(string program, params string[] arguments)
    {
        using var process = Process.Start(program, arguments);
        process.EndInTime();
        process.ExitCode.ShouldBe(0, $"{program} {string.Join(' ', arguments)}");
    }
}
