using AmberCrate.Tests;

namespace AmberCrate.Cli.Tests;

/// <summary>What is asked on a terminal is seen before it is answered.</summary>
public sealed class AskingTests
{
    [Theory]
    [InlineData("y\n", 0, "1 done.")]
    [InlineData("n\n", 130, "Nothing has been changed.")]
    [InlineData("what\nn\n", 130, "y or n, please")]
    public async Task The_question_is_seen_before_it_is_answered(string answer, int exitCode, string then)
    {
        await using var sandbox = Sandbox.WithCatalogues();
        var (ended, shown) = await AnswerAsync(sandbox, "[y/n]", answer, "install", "gantry-plot");
        ended.ShouldBe(exitCode, shown);
        shown.ShouldContain(then);
        sandbox.Run("list").Out.Contains("gantry-plot", StringComparison.Ordinal).ShouldBe(answer[0] == 'y', shown);
    }

    [Fact]
    public async Task What_is_picked_is_seen_and_what_is_unticked_is_left_out()
    {
        await using var sandbox = Sandbox.WithCatalogues();
        var (ended, shown) = await AnswerAsync(
            sandbox, "escape: leave", " \r", "install", "gantry-plot", "truss-tally", "--pick", "--yes");
        ended.ShouldBe(0, shown);
        shown.ShouldContain("1 done.");
        var list = sandbox.Run("list").Out;
        list.ShouldContain("truss-tally");
        list.ShouldNotContain("gantry-plot");
    }

    [Fact]
    public async Task What_becomes_older_is_named_in_the_question()
    {
        await using var sandbox = Sandbox.WithCatalogues();
        sandbox.Run("install", "scrim-paint", "--yes").ShouldEnd(0);
        var (ended, shown) = await AnswerAsync(sandbox, "[y/n]", "n\n", "install", "scrim-paint@4.1.2");
        ended.ShouldBe(130, shown);
        shown.ShouldContain("go back to an older version of 1 app: scrim-paint 4.1.2?");
    }

    [Fact]
    public async Task A_bundle_is_picked_from_what_was_found_or_is_installed()
    {
        await using var sandbox = Sandbox.WithCatalogues();
        var (ended, shown) = await AnswerAsync(
            sandbox, "escape: leave", " \r", "search", "--category", "drawing", "--into", "a.bundle.toml", "--pick");
        ended.ShouldBe(0, shown);
        shown.ShouldContain("lists 2 apps.");
        sandbox.Run("install", "gantry-plot", "truss-tally", "--yes").ShouldEnd(0);
        (ended, shown) = await AnswerAsync(sandbox, "escape: leave", " \r", "export", "-o", "b.bundle.toml", "--pick");
        ended.ShouldBe(0, shown);
        File.ReadAllText(sandbox["b.bundle.toml"]).ShouldContain("truss-tally");
        File.ReadAllText(sandbox["b.bundle.toml"]).ShouldNotContain("gantry-plot");
    }

    [Theory]
    [InlineData("\e")]
    [InlineData("\u0003")]
    public async Task The_picking_can_be_left(string key)
    {
        await using var sandbox = Sandbox.WithCatalogues();
        var (ended, shown) = await AnswerAsync(sandbox, "escape: leave", key, "install", "gantry-plot", "truss-tally", "--pick");
        ended.ShouldBe(130, shown);
        sandbox.Run("list").Out.ShouldNotContain("gantry-plot");
    }

    [Fact]
    public async Task The_question_can_be_interrupted()
    {
        await using var sandbox = Sandbox.WithCatalogues();
        var (ended, shown) = await AnswerAsync(sandbox, "[y/n]", "\u0003", "install", "gantry-plot");
        ended.ShouldBe(130, shown);
        sandbox.Run("list").Out.ShouldNotContain("gantry-plot");
    }

    [Fact]
    public async Task A_vendors_installer_is_answered_on_a_terminal_of_its_own_and_nothing_typed_is_kept()
    {
        await using var sandbox = InstallerTests.With("""
            #!/bin/sh
            printf 'Your name: ' && read -r name
            printf '\033]0;title\007' && test -t 0 && echo "on a terminal"
            (: </dev/tty) 2>/dev/null && echo "on ours"
            mkdir -p "$1/bin" && printf '#!/bin/sh\necho hello %s\n' "$name" > "$1/bin/truss-tally" && chmod 755 "$1/bin/truss-tally"
            """, seconds: 2, more: "attended_arguments = [\"{folder}\"], ");
        sandbox.Run("install", "truss-tally", "--attended", "--yes").ShouldRefuse(2, "--attended needs a terminal");
        if (!File.Exists("/usr/bin/bwrap")) Assert.Skip("an installer runs only where it can be confined");
        var (ended, shown) = await AnswerAsync(
            sandbox, "Your name:", "Evangeline\r", "install", "truss-tally", "--attended", "--yes");
        ended.ShouldBe(0, shown);
        shown.ShouldContain("?]0;title");
        shown.ShouldContain("on a terminal");
        shown.ShouldNotContain("on ours");
        sandbox.RunInstalled("truss-tally").ShouldBe("hello Evangeline\n");
        foreach (var log in Directory.GetFiles(sandbox["root", ".local", "state", "amber-crate", "logs", "00001"]))
            File.ReadAllText(log).ShouldNotContain("Evangeline");
    }

    private static async Task<(int Ended, string Shown)> AnswerAsync(
        Sandbox sandbox, string question, string answer, params string[] arguments)
    {
        using var process = sandbox.StartOnTerminal(arguments);
        var shown = await process.ReadAndAnswerAsync(question, answer);
        await process.EndInTimeAsync();
        return (process.ExitCode, shown);
    }
}
