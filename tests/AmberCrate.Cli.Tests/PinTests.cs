namespace AmberCrate.Cli.Tests;

public sealed class PinTests
{
    private const string Words = "pinned to @4.1.x until 2999-03-31 (sketches of the autumn show)";

    [Fact]
    public async Task A_pin_is_shown_everywhere_obeyed_and_lifted_without_changing_what_the_app_follows()
    {
        await using var sandbox = Sandbox.WithCatalogues();
        sandbox.Prepare.Install("scrim-paint@4.1.2");
        sandbox.Prepare.Install("scrim-paint@stable");
        sandbox.Run("pin").ShouldPrint(0, "No app is pinned.");
        sandbox.Run("pin", "scrim-paint@4.1.x", "--reason", "sketches of the autumn show", "--until", "2999-03-31")
            .ShouldPrint(0, $"scrim-paint is {Words}.");
        sandbox.Run("pin").ShouldPrint(0, """
            1 pin
            app          pinned to  installed  holds back  until       reason
            scrim-paint  @4.1.x     4.1.2      4.2.1       2999-03-31  sketches of the autumn show
            """);
        sandbox.Run("list").ShouldEnd(0).Out.ShouldContain($"just now  {Words}\n");
        sandbox.Run("due", "--check").ShouldEnd(0).Out.ShouldContain($"guild      {Words}\n");
        sandbox.Run("upgrade", "--yes").ShouldPrint(0, $"""
            Nothing to do: 1 pinned.
            pinned  scrim-paint 4.1.2  {Words}; 4.2.1 is newer
            """);
        sandbox.Run("install", "scrim-paint@4.2.1", "--yes").ShouldFail(4, $"""
            acrate: scrim-paint 4.2.1 cannot be installed
              why: scrim-paint is {Words}
              next: acrate pin scrim-paint --lift, or name a version that the pin allows
            """);
        var pin = sandbox.Run("pin", "--json").ShouldEnd(0).Json.GetProperty("pins")[0];
        (pin.GetProperty("to").GetString(), pin.GetProperty("until").GetString(), pin.GetProperty("holds_back").GetString())
            .ShouldBe(("4.1.x", "2999-03-31", "4.2.1"));
        sandbox.Run("pin", "Scrim Paint", "--lift").ShouldPrint(0, $"scrim-paint is no longer {Words}.");
        sandbox.Run("upgrade", "--yes").ShouldEnd(0).Out.ShouldContain("follows @stable");
        sandbox.RunInstalled("scrim-paint", "--version").ShouldBe("Scrim Paint 4.2.1\n");
    }

    [Fact]
    public async Task A_pin_travels_in_a_bundle_with_its_reason_and_is_undone_with_the_run_that_set_it()
    {
        await using var sandbox = Sandbox.WithCatalogues();
        sandbox.Prepare.Install("scrim-paint@4.1.2");
        sandbox.Run("pin", "scrim-paint", "--reason", "a \"quoted\" reason").ShouldEnd(0);
        sandbox.Run("export", "-o", "a.bundle.toml").ShouldEnd(0);
        sandbox.Root = "other";
        sandbox.Run("equip", "a.bundle.toml", "--yes", "--unsigned").ShouldEnd(0).Out
            .ShouldContain("pin scrim-paint will be pinned to @4.1.2 (a \"quoted\" reason)\n");
        sandbox.Run("pin").ShouldEnd(0).Out.ShouldContain("a \"quoted\" reason");
        sandbox.Run("equip", "a.bundle.toml", "--yes", "--unsigned").ShouldEnd(0).Out.ShouldStartWith("Nothing to do:");
        sandbox.Run("undo", "--yes").ShouldEnd(0).Out.ShouldContain("pin scrim-paint will be lifted");
        sandbox.Run("pin").ShouldPrint(0, "No app is pinned.");
        sandbox.Run("catalogue", "list").ShouldEnd(0).Out.ShouldStartWith("No catalogue");
        sandbox.Tree("other").ShouldBeEmpty();
    }

    [Theory]
    [InlineData(3, "cue-ledger is not installed, so there is no version to pin it to", "cue-ledger")]
    [InlineData(3, "no app is called \"juggler\"", "juggler@1.x")]
    [InlineData(2, "--until \"soon\" is not a day", "cue-ledger@1.x", "--until", "soon")]
    [InlineData(2, "the pin would have ended on 2020-01-01", "cue-ledger@1.x", "--until", "2020-01-01")]
    [InlineData(3, "\"cue-ledger\" is not pinned", "cue-ledger", "--lift")]
    [InlineData(2, "no app is named", "--reason", "nothing")]
    public async Task What_cannot_be_pinned_is_refused(int code, string what, params string[] arguments)
    {
        await using var sandbox = Sandbox.WithCatalogues();
        sandbox.Run(["pin", .. arguments]).ShouldRefuse(code, what);
        sandbox.Run("pin").ShouldPrint(0, "No app is pinned.");
    }

    [Fact]
    public async Task A_pin_on_what_is_not_installed_waits_for_it()
    {
        await using var sandbox = Sandbox.WithCatalogues();
        sandbox.Run("pin", "scrim-paint@4.1.x").ShouldPrint(0, "scrim-paint is pinned to @4.1.x (no reason given).");
        sandbox.Prepare.Install("scrim-paint");
        sandbox.RunInstalled("scrim-paint", "--version").ShouldBe("Scrim Paint 4.1.2\n");
    }
}
