using AmberCrate.Core.CardFiles;
using AmberCrate.Core.Machine;
using AmberCrate.Core.Tests.Cards;

namespace AmberCrate.Core.Tests.Machine;

public sealed class PlacementListTests
{
    private const string Place = """

        [place]
        commands = [{ name = "scrim", path = "bin/scrim" }]
        mime_types = [{ name = "x-scrim", path = "share/mime/scrim.xml" }]
        manual_pages = [{ name = "scrim.1.gz", path = "man/scrim.1.gz" }, { name = "scrim-cloth.5", path = "man/cloth.5" }]
        completions = [{ shell = "bash", command = "scrim", path = "c/scrim" }, { shell = "zsh", command = "scrim", path = "c/_scrim" }, { shell = "fish", command = "scrim", path = "c/scrim.fish" }]
        fonts = [{ name = "Poster.otf", path = "fonts/Poster.otf" }]
        autostart = [{ name = "scrim-watch", command = "scrim", arguments = "--background" }]
        icons = [{ name = "scrim", path = "i/48.png", size = "48x48" }, { name = "scrim", path = "i/96.png", size = "48x48@2" }]
        """;

    [Fact]
    public void Everything_goes_to_where_the_desktop_looks_for_it()
    {
        var card = CardSamples.Read(CardSamples.Text("scrim", "1 2026-01-02") + Place);
        CardJson.Write(CardJson.Read(CardJson.Write(card))).ShouldBe(CardJson.Write(card));
        var items = PlacementList.List(card, card.Releases[0], name => $"/home/u/.local/bin/{name}", _ => "");
        items.Select(item => $"{item.Kind} {item.Name} {item.Source}").ShouldBe(
        [
            "Command scrim bin/scrim", "Icon 48x48/apps/scrim.png i/48.png", "Icon 48x48@2/apps/scrim.png i/96.png",
            "MimeType x-scrim.xml share/mime/scrim.xml",
            "ManualPage man1/scrim.1.gz man/scrim.1.gz", "ManualPage man5/scrim-cloth.5 man/cloth.5",
            "Completion bash-completion/completions/scrim c/scrim", "Completion zsh/site-functions/_scrim c/_scrim",
            "Completion fish/vendor_completions.d/scrim.fish c/scrim.fish",
            "Font scrim/Poster.otf fonts/Poster.otf", "Autostart scrim-watch.desktop ",
        ]);
        items[^1].Content!.ShouldContain("Exec=/home/u/.local/bin/scrim --background\n");
        DesktopEntryText.Faults(items[^1].Content!).ShouldBeEmpty();
    }

    [Theory]
    [InlineData("manual_pages = [{ name = \"scrim\", path = \"a\" }]",
        "place.manual_pages[1].name: expected a name that ends in its section")]
    [InlineData("autostart = [{ name = \"a\", command = \"b\" }]",
        "place.autostart[1].command: expected the name of one of this app's commands, found \"b\"")]
    [InlineData("completions = [{ shell = \"zsh\", command = \"b\", path = \"a\" }]",
        "place.completions[1].command: expected the name of one of this app's commands")]
    [InlineData("completions = [{ shell = \"sh\", command = \"b\", path = \"a\" }]",
        "place.completions[1].shell: expected one of")]
    [InlineData("fonts = [{ name = \"a.otf\", path = \"a\" }, { name = \"a.otf\", path = \"b\" }]",
        "place.fonts: expected each name once, found \"a.otf\" again")]
    [InlineData("icons = [{ name = \"a\", path = \"a.png\", size = \"48x48@9\" }]", "place.icons[1].size: expected")]
    [InlineData("mime_types = [{ name = \"../a\", path = \"a\" }]", "place.mime_types[1].name: expected a file name")]
    public void What_cannot_be_placed_is_refused(string place, string says) =>
        CardSamples.FaultsOf(CardSamples.Text("a", "1 2026-01-01") + "[place]\n" + place)
            .ShouldContain(fault => fault.Contains(says, StringComparison.Ordinal));

    [Theory]
    [InlineData("tar.gz", "installer = { arguments = [] }", "expected only where format is \"installer\"")]
    [InlineData("installer", "", "expected where format is \"installer\"")]
    [InlineData("installer", "installer = { success_codes = [256] }", "expected whole numbers from 0 to 255")]
    [InlineData("installer", "installer = { seconds = 0 }", "installer.seconds")]
    [InlineData("appimage", "filename = \"start\"", "expected another name than \"start\"")]
    [InlineData("7z", "filename = \"a\"", "expected only where format is a single file")]
    [InlineData("installer",
        "installer = { arguments = [\"--into={folder}\"], success_codes = [0, 2], restart_codes = [3], seconds = 60 }",
        null)]
    [InlineData("appimage", "filename = \"Scrim.AppImage\"", null)]
    public void Artifacts_of_a_form_have_the_keys_of_that_form(string format, string key, string? says)
    {
        var text = CardSamples.Text("a", "1 2026-01-01")
            .Replace("format = \"tar.gz\"", $"format = \"{format}\"\n{key}", StringComparison.Ordinal);
        if (says is not null)
        {
            CardSamples.FaultsOf(text).ShouldContain(fault => fault.Contains(says, StringComparison.Ordinal));
            return;
        }

        var card = CardSamples.Read(text);
        CardJson.Write(CardJson.Read(CardJson.Write(card))).ShouldBe(CardJson.Write(card));
        if (format == "installer")
        {
            var installer = card.Releases[0].Artifacts[0].Installer!;
            $"{string.Join(" ", installer.SuccessCodes)}, {installer.Seconds}".ShouldBe("0 2, 60");
        }
    }

    [Theory]
    [InlineData("[Desktop Entry]\nType=Application\nName=A\nExec=a\n", "")]
    [InlineData("# word\n\n[Desktop Entry]\nType=Application\nName=A\nName[de]=B\nExec=a\n[Desktop Action x]\nName=X\nExec=b\n",
        "")]
    [InlineData("Type=Application\n",
        "line 1 comes before the first group; [Desktop Entry] has no Type; [Desktop Entry] has no Name; [Desktop Entry] has "
            + "no Exec")]
    [InlineData("[Desktop Entry]\nType=Application\nName=A\nExec=a\nExec=b\n", "line 5 says Exec again")]
    [InlineData("[Desktop Entry]\nType=Application\nName=A\nExec=a\n<html>\n",
        "line 5 is neither a group nor a key with a value")]
    public void Faults_of_desktop_entries_are_named(string text, string faults) =>
        string.Join("; ", DesktopEntryText.Faults(text)).ShouldBe(faults);

    [Fact]
    public void An_archive_may_not_grow_beyond_all_reason()
    {
        var artifact = CardSamples.With("a", "1 2026-01-01").Releases[0].Artifacts[0];
        new UnpackingBudget(artifact).MostBytes.ShouldBe(1L << 30);
        new UnpackingBudget(artifact with { DownloadSize = 1L << 30 }).MostBytes.ShouldBe(200L << 30);
        var budget = new UnpackingBudget(artifact with { InstalledSize = 1 << 20 });
        budget.AddBytes(66 << 20);
        Should.Throw<RefusedEntryException>(() => budget.AddBytes(1)).Message.ShouldBe(
            "more than 66.0 MiB, from a file of 10 B although its card says that it holds 1.0 MiB");
        Should.Throw<RefusedEntryException>(() =>
        {
            for (var entry = 0; entry <= UnpackingBudget.MostEntries; entry++) budget.AddEntry();
        }).Message.ShouldBe("more than 300000 entries");
    }
}
