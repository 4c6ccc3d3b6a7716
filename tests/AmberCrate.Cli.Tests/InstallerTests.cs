namespace AmberCrate.Cli.Tests;

/// <summary>Vendors' installers: run silently into the shelf, within limits.</summary>
public sealed class InstallerTests
{
    private const string Script = """
        #!/bin/sh
        echo "to $1, home $HOME, path $PATH"
        mkdir -p "$1/bin" && printf '#!/bin/sh\necho hemmed\n' > "$1/bin/truss-tally" && chmod 755 "$1/bin/truss-tally"
        case "${2:-}" in
        fail) echo "no room in the fly loft"; exit 7 ;;
        restart) exit 3 ;;
        nothing) rm -r "$1/bin" ;;
        hang) trap '' TERM; echo "press any key"; while :; do sleep 0.1; done ;;
        ask) read answer || exit 9 ;;
        fork) sh -c 'trap "" TERM; while :; do sleep 0.1; done' & ;;
        forks) for one in 1 2 3 4 5 6 7 8; do sh -c 'trap "" TERM; while :; do sleep 0.1; done' & done ;;
        look)
            echo "interfaces: $(grep -c : /proc/net/dev)"
            cat "$3" 2>/dev/null
            touch /usr/acrate-was-here 2>/dev/null && echo "wrote to the system"
            touch "${3%/*}/acrate-was-here" 2>/dev/null && echo "wrote beside the secret"
            ls /proc | grep -c '^[0-9]' | sed 's/^/processes: /' ;;
        restless) again='exec sh -c "$again"'; export again; for one in 1 2 3 4 5 6 7 8 9 10 11 12 13 14 15 16 17 18 19 20; do sh -c "$again" & done ;;
        esac
        """;

    [Fact]
    public async Task An_installer_fills_the_shelf_and_what_it_was_given_is_remembered()
    {
        await using var sandbox = WithInstaller();
        var put = sandbox.Run("install", "truss-tally", "--yes", "--installer-argument", "truss-tally=restart").ShouldEnd(0);
        put.Out.ShouldContain("to its installer: restart\n");
        put.Out.ShouldContain(
            "runs the vendor's installer of truss-tally: confined, without network\n");
        put.Out.ShouldContain("attention  truss-tally: its installer says: restart the machine to finish\n");
        sandbox.RunInstalled("truss-tally").ShouldBe("hemmed\n");
        var log = File.ReadAllText(sandbox["root", ".local", "state", "amber-crate", "logs", "00001", "truss-tally.log"]);
        log.ShouldContain(
            $"home {sandbox["root"]}/.cache/amber-crate/installer-truss-tally/home, path "
                + $"/usr/local/bin:/usr/bin:/bin:/usr/sbin:/sbin\n");
        Directory.Exists(sandbox["root", ".cache", "amber-crate", "installer-truss-tally"]).ShouldBeFalse();
        sandbox.Run("export", "-o", "all.bundle.toml").ShouldEnd(0);
        File.ReadAllText(sandbox["all.bundle.toml"]).ShouldContain("installer_arguments = [\"restart\"]\n");
        sandbox.Root = "second";
        sandbox.Run("equip", "all.bundle.toml", "--yes", "--unsigned").ShouldEnd(0).Out.ShouldContain(
            "restart the machine to finish");
        sandbox.Run("install", "gantry-plot", "--dry-run", "--installer-argument", "gantry-plot=x").ShouldFail(
            2,
            "acrate: --installer-argument names gantry-plot, which has no installer in this run\n  why: nothing has been "
                + "changed\n  "
                + "next: "
                + "name an app that this run installs with an installer, by its id");
    }

    [Fact]
    public async Task A_confined_installer_sees_no_network_no_files_of_the_person_and_no_other_process()
    {
        await using var sandbox = WithInstaller();
        Directory.CreateDirectory(sandbox["home"]);
        File.WriteAllText(sandbox["home", "secret"], "the combination of the safe\n");
        string[] arguments =
        [
            "install", "truss-tally", "--yes", "--installer-argument", "truss-tally=look", "--installer-argument",
            $"truss-tally={sandbox["home", "secret"]}",
        ];
        sandbox.Run(arguments).ShouldExitWith(0);
        sandbox.RunInstalled("truss-tally").ShouldBe("hemmed\n");
        var log = File.ReadAllText(sandbox["root", ".local", "state", "amber-crate", "logs", "00001", "truss-tally.log"]);
        log.ShouldContain("interfaces: 1\n");
        log.ShouldNotContain("the combination of the safe");
        log.ShouldNotContain("wrote ");
        log.Split("processes: ")[1].Split('\n')[0].Length.ShouldBe(1, "only its own few processes are to be seen");
        File.Exists("/usr/acrate-was-here").ShouldBeFalse();
        File.Exists(sandbox["home", "acrate-was-here"]).ShouldBeFalse();
    }

    [Theory]
    [InlineData("fail", "why: it ended with 7; its last lines: ", "no room in the fly loft")]
    [InlineData("nothing", "why: it ended as it should, and has put nothing into its folder", "")]
    [InlineData("hang", "why: it had not ended after 2 seconds; its last lines: ", "press any key")]
    [InlineData("ask", "why: it ended with 9", "")]
    public async Task An_installer_that_does_not_do_its_work_leaves_nothing(string how, string says, string last)
    {
        await using var sandbox = WithInstaller();
        var put = sandbox.Run("install", "truss-tally", "--yes", "--installer-argument", $"truss-tally={how}").ShouldEnd(12);
        put.Out.ShouldContain("failed  truss-tally 0.3: the installer failed\n");
        put.Out.ShouldContain(says);
        put.Out.ShouldContain(last);
        sandbox.Tree("root").ShouldBeEmpty();
        Mine(sandbox).ShouldBeEmpty("nothing that it has started lives on");
    }

    [Fact]
    public async Task An_installer_whose_run_was_ended_is_ended_by_the_next_and_what_it_was_given_is_given_again()
    {
        await using var sandbox = WithInstaller();
        NotConfined(sandbox);
        string[] install =
            ["install", "truss-tally", "--yes", "--installer-argument", "truss-tally=hang", "--allow-unconfined"];
        using (var cut = sandbox.Start(install))
        {
            for (var tries = 0; tries < 600 && Mine(sandbox).Count == 0; tries++)
                await Task.Delay(20, TestContext.Current.CancellationToken);
            cut.Kill();
            sandbox.Finish(cut, install);
        }

        Mine(sandbox).ShouldNotBeEmpty("nobody has ended it yet");
        sandbox.Run("retry", "--dry-run", "--allow-unconfined").ShouldEnd(0).Out.ShouldContain("to its installer: hang");
        sandbox.Run("catalogue", "refresh").ShouldEnd(0);
        Mine(sandbox).ShouldBeEmpty();
        Directory.Exists(sandbox["root", ".cache", "amber-crate", "installer-truss-tally"]).ShouldBeFalse();
    }

    [Theory]
    [InlineData("fork", true)]
    [InlineData("forks", true)]
    [InlineData("restless", true)]
    [InlineData("fork", false)]
    [InlineData("forks", false)]
    [InlineData("restless", false)]
    public async Task What_an_installer_has_started_ends_with_it(string how, bool isConfined)
    {
        await using var sandbox = WithInstaller();
        if (!isConfined) NotConfined(sandbox);
        sandbox.Run("install", "truss-tally", "--yes", "--allow-unconfined", "--installer-argument", $"truss-tally={how}")
            .ShouldEnd(0);
        Mine(sandbox).ShouldBeEmpty();
    }

    [Theory]
    [InlineData(true, true)]
    [InlineData(true, false)]
    [InlineData(false, false)]
    public async Task An_installer_that_cannot_be_confined_does_not_run_as_root_and_for_others_only_if_they_say_so(
        bool asRoot, bool allUsers)
    {
        await using var sandbox = WithInstaller();
        if (allUsers) sandbox.MakeImage();
        if (allUsers) sandbox.Run("catalogue", "add", "--all-users", "guild", "guild").ShouldEnd(0);
        NotConfined(sandbox, asRoot);
        string[] install = ["install", "truss-tally", "--yes", .. allUsers ? ["--all-users"] : (string[])[]];
        var refused = sandbox.Run(install);
        refused.ShouldExitWith(4);
        refused.Error.ShouldStartWith("acrate: the installer of truss-tally cannot run safely\n"
            + "  why: it cannot be confined: bwrap, prlimit or setpriv is missing on this machine, or does not work");
        sandbox.Tree("root").ShouldBeEmpty();
        var agreed = sandbox.Run([.. install, "--allow-unconfined"]);
        agreed.ShouldExitWith(asRoot ? 4 : 0);
        if (asRoot) return;
        agreed.Out.ShouldContain("NOT confined");
        agreed.Out.ShouldContain("attention  truss-tally: its installer ran without confinement\n");
    }

    [Theory]
    [InlineData(true, false, "not started once to see whether it works, since it cannot be confined here")]
    [InlineData(false, false, "not started once to see whether it works, since it cannot be confined here")]
    [InlineData(false, true, "it was started once without confinement")]
    public async Task An_app_that_cannot_be_confined_is_not_started_once_unless_the_person_says_so(
        bool asRoot, bool isAllowed, string note)
    {
        await using var sandbox = WithCheck("[\"--version\"]", "Gantry Plot {version}");
        NotConfined(sandbox, asRoot);
        var put = sandbox.Run(["install", "gantry-plot", "--yes", .. isAllowed ? ["--allow-unconfined"] : (string[])[]]);
        put.ShouldExitWith(0);
        put.Out.ShouldContain($"attention  gantry-plot: {note}\n");
        put.Out.Contains("started once, to see whether it works: gantry-plot --version (NOT confined)", StringComparison.Ordinal)
            .ShouldBe(isAllowed);
    }

    [Theory]
    [InlineData("[\"--version\"]", "Gantry Plot {version}", null)]
    [InlineData("[\"--version\"]", "Gantry Plot 9",
        "why: gantry-plot --version has not written \"Gantry Plot 9\"; its last lines: Gantry Plot 2.1.0")]
    public async Task An_app_is_started_once_where_its_card_says_so(string arguments, string output, string? why)
    {
        await using var sandbox = WithCheck(arguments, output);
        var put = sandbox.Run("install", "gantry-plot", "--yes").ShouldEnd(why is null ? 0 : 5);
        put.Out.ShouldContain("started once, to see whether it works: gantry-plot --");
        if (why is null) return;
        put.Out.ShouldContain("failed  gantry-plot 2.1.0 does not work\n");
        put.Out.ShouldContain(why);
        sandbox.Tree("root").ShouldBeEmpty();
    }

    private static Sandbox WithCheck(string arguments, string output)
    {
        var sandbox = new Sandbox();
        var card = sandbox["guild", "gantry-plot.appcard.toml"];
        var text = File.ReadAllText(card);
        var at = text.IndexOf("[[place.", StringComparison.Ordinal);
        File.WriteAllText(
            card,
            $"{text[..at]}[place.check]\ncommand = \"gantry-plot\"\narguments = {arguments}\noutput = "
                + $"\"{output}\"\n\n{text[at..]}");
        sandbox.Run("catalogue", "add", "guild", "guild").ShouldEnd(0);
        return sandbox;
    }

    /// <summary>Takes away what confines programs.</summary>
    private static void NotConfined(Sandbox sandbox, bool asRoot = false)
    {
        sandbox.SystemPrograms["bwrap"] = null;
        if (!asRoot) sandbox.BecomeUser("23456");
    }

    private static Sandbox WithInstaller() => With(Script, seconds: 2);

    /// <summary>A sandbox in which an app has an installer.</summary>
    /// <param name="script">The installer.</param>
    /// <param name="seconds">How long it may take.</param>
    /// <param name="more">What else its card says of it.</param>
    internal static Sandbox With(string script, int seconds, string more = "")
    {
        var sandbox = new Sandbox();
        sandbox.ReplaceArtifact("truss-tally", System.Text.Encoding.UTF8.GetBytes(script), "installer");
        var card = sandbox["guild", "truss-tally.appcard.toml"];
        File.WriteAllText(card, File.ReadAllText(card).Replace(
            "format = \"installer\"",
            $"format = \"installer\"\ninstaller = {{ {more}arguments = [\"{{folder}}\"], restart_codes = [3], "
                + $"seconds = {seconds} }}",
            StringComparison.Ordinal));
        sandbox.Run("catalogue", "add", "guild", "guild").ShouldEnd(0);
        return sandbox;
    }

    /// <summary>
    /// The processes that have their home below the sandbox, as several looks have found them: one that is just becoming another
    /// program cannot be seen.
    /// </summary>
    private static List<string> Mine(Sandbox sandbox) =>
        [.. Enumerable.Range(0, 10).SelectMany(_ => Directory.EnumerateDirectories("/proc")).Where(process =>
    {
        try
        {
            return File.ReadAllText(Path.Combine(process, "environ"))
                .Contains($"HOME={sandbox["root"]}/", StringComparison.Ordinal);
        }
        catch (Exception gone) when (gone is IOException or UnauthorizedAccessException)
        {
            return false;
        }
    })];
}
