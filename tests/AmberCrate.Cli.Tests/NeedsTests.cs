namespace AmberCrate.Cli.Tests;

public sealed class NeedsTests
{
    [Fact]
    public async Task What_another_app_holds_back_is_not_called_due()
    {
        await using var sandbox = Sandbox.WithCatalogues();
        sandbox.Prepare.Install("trapdoor-carry");
        var card = sandbox["guild", "batten-runtime.appcard.toml"];
        var newest = File.ReadAllText(card)[File.ReadAllText(card).IndexOf("[[releases]]", StringComparison.Ordinal)..];
        File.AppendAllText(card, System.Text.RegularExpressions.Regex.Replace(
            newest, "version = \"[^\"]*\"", "version = \"2.0\"", System.Text.RegularExpressions.RegexOptions.None,
            TimeSpan.FromSeconds(1)));
        sandbox.Prepare.Refresh();
        sandbox.Run("due", "--check").ShouldEnd(0).Out.ShouldMatch(
            "^Nothing is due among 2 apps\n(?s:.*)held back by trapdoor-carry\n");
        sandbox.Run("list", "batten").ShouldEnd(0).Out
            .ShouldMatch("^1 app, 0 outdated\n(?s:.*)held back by trapdoor-carry; installed for another app\n");
        sandbox.Run("about", "batten-runtime").ShouldEnd(0).Out.ShouldNotContain("next: acrate upgrade");
        sandbox.Run("due", "--json").ShouldEnd(0).Json.GetProperty("apps")[0].GetProperty("held_by")[0].GetString()
            .ShouldBe("trapdoor-carry");
        sandbox.Run("upgrade", "--yes").ShouldEnd(0).Out.ShouldContain("Nothing to do: 1 unchanged.\n");
    }

    [Fact]
    public async Task What_an_app_needs_is_shown_comes_along_and_stays_while_it_is_needed()
    {
        await using var sandbox = Sandbox.WithCatalogues();
        sandbox.Run("about", "trapdoor-carry").ShouldEnd(0).Out.ShouldContain(
            "  needs          batten-runtime@1..2\n  also installs  batten-runtime 1.2.0, ");
        sandbox.Run("install", "trapdoor-carry", "--yes").ShouldEnd(0).Out.ShouldContain("needed by trapdoor-carry");
        sandbox.Run("list", "--json").ShouldEnd(0).Json.GetProperty("apps").GetArrayLength().ShouldBe(2);
        sandbox.Run("uninstall", "batten-runtime", "--yes").ShouldFail(4, """
            acrate: batten-runtime is needed by other apps and is not uninstalled
              why: trapdoor-carry 7.0 needs batten-runtime@1..2; nothing has been changed
              next: add --and-needed-by to uninstall these as well, or keep it
            """);
        sandbox.Run("about", "trapdoor-carry").ShouldEnd(0).Out.ShouldContain("  also installs  nothing, it is there already\n");
        sandbox.Run("uninstall", "batten-runtime", "trapdoor-carry", "--yes").ShouldEnd(0);
    }

    [Fact]
    public async Task Where_what_is_needed_fails_the_app_is_not_put_on()
    {
        await using var sandbox = Sandbox.WithCatalogues();
        File.WriteAllText(sandbox["guild", "files", "batten-runtime-1.2.0.tar.gz"], "rubbish");
        var run = sandbox.Run("install", "trapdoor-carry", "--yes");
        run.ShouldExitWith(5);
        run.Out.ShouldContain("batten-runtime, which it needs, has failed");
        sandbox.Tree("root").ShouldNotContain(path => path.Contains("trapdoor-carry"));
    }
}
