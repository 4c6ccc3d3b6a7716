namespace AmberCrate.Cli.Tests;

public sealed class FindTests
{
    [Fact]
    public async Task Search_finds_by_purpose_and_shows_what_is_installed()
    {
        await using var sandbox = Sandbox.WithCatalogues();
        sandbox.Run("install", "scrim-paint@4.1.2", "--yes").ShouldEnd(0);
        sandbox.Run("search", "drawing").ShouldPrint(0, """
            app               version  installed  catalogue  kind         found by  what it is
            gantry-plot       2.1.0               guild      desktop app  category  Gantry Plot: Rigging plans for flown scenery
            scrim-paint       4.2.1    4.1.2      guild      desktop app  category  Scrim Paint: Paint backdrops and gauzes to scale
            backcloth-render  4.0.0               guild      desktop app  category  Backcloth Render: Render painted cloths under stage light
            3 apps · catalogues refreshed just now
            """);
    }

    [Theory]
    [InlineData("Scrim Paint")]
    [InlineData("scrim-paint")]
    [InlineData("SCRIMPAINT")]
    [InlineData("paint scrim")]
    [InlineData("gauze")]
    [InlineData("scrím")]
    public async Task Spelling_hardly_matters(string words)
    {
        await using var sandbox = Sandbox.WithCatalogues();
        var found = sandbox.Run("search", words, "--json").ShouldEnd(0).Json;
        found.GetProperty("results")[0].GetProperty("id").GetString().ShouldBe("scrim-paint");
    }

    [Theory]
    [InlineData("\"")]
    [InlineData("a\" OR b*")]
    [InlineData("NEAR(a b)")]
    [InlineData("-paint'")]
    [InlineData("!!! ??? ...")]
    public async Task Operators_and_quotes_are_only_words(string words)
    {
        await using var sandbox = Sandbox.WithCatalogues();
        var result = sandbox.Run("search", "--", words);
        result.ExitCode.ShouldBeOneOf(0, 3);
        result.Error.ShouldBe("");
    }

    [Fact]
    public async Task A_search_without_a_result_names_what_is_near_and_who_was_asked()
    {
        await using var sandbox = Sandbox.WithCatalogues();
        sandbox.Run("search", "gantri-plot").ShouldPrint(3, """
            Nothing matches "gantri-plot".
              perhaps gantry-plot
            asked: house (5 apps), guild (10 apps) · catalogues refreshed just now
            """);
        sandbox.Run("search", new string('x', 10_000)).ExitCode.ShouldBe(3);
        sandbox.Run("search", "paint", "--limit", "0").ShouldFail(2, """
            acrate: --limit takes a whole number from 1
              next: acrate search --help
            """);
    }

    [Fact]
    public async Task A_machine_without_catalogues_says_so()
    {
        await using var sandbox = new Sandbox();
        sandbox.Run("search", "paint").ShouldPrint(3, """
            Nothing matches "paint".
            no catalogue has been added
            """);
        sandbox.Run("list").ShouldPrint(0, "0 apps, 0 outdated · no catalogue has been added");
        sandbox.Run("due").ShouldPrint(0, "Nothing is due among 0 apps · no catalogue has been added");
        sandbox.Run("install", "paint", "--dry-run").ShouldFail(3, """
            acrate: no app is called "paint"
              why: no catalogue has been added yet
              next: acrate catalogue add NAME LOCATION
            """);
        sandbox.Tree("root").ShouldBeEmpty("looking changes nothing");
    }

    [Fact]
    public async Task About_tells_everything_on_the_card()
    {
        await using var sandbox = Sandbox.WithCatalogues();
        var sha256 = File.ReadLines(sandbox["guild", "scrim-paint.appcard.toml"]).Last(line => line.StartsWith("sha256", StringComparison.Ordinal)).Split('"')[1];
        var size = new FileInfo(sandbox["guild", "files", "scrim-paint-4.2.1.tar.xz"]).Length;
        var unpacked = File.ReadLines(sandbox["guild", "scrim-paint.appcard.toml"]).Last(line => line.StartsWith("installed_size", StringComparison.Ordinal)).Split(' ')[2];
        sandbox.Run("about", "Scrim Paint").ShouldPrint(0, $"""
            Scrim Paint  scrim-paint
            Paint backdrops and gauzes to scale

              Squares a sketch up to the size of a cloth, so that painters can follow it on the frame.
              Reads sketches as plain text.

              kind        desktop app
              developer   Battenworks (battenworks)
              homepage    https://scrim-paint.example
              licence     GPL-3.0-or-later
              sign-in     not needed
              categories  Graphics, 2DGraphics, RasterGraphics
              keywords    backdrop, gauze, cloth, scale
              review      reviewed 2026-09-14 by Theatre guild, software table
              catalogue   guild

            release  line    date        what is new
            4.2.1    stable  2026-08-19  Mends the count of hessian seams.
            4.2.0    stable  2026-05-30  Cloths may be wider than twelve metres.
            4.1.2    stable  2026-01-20  Mends squares that were half a hand too wide.

            On this machine scrim-paint@4.2.1 would be
              fetched     ~/guild/files/scrim-paint-4.2.1.tar.xz
              size        {size} B, {(int.Parse(unpacked) < 1024 ? $"{unpacked} B" : $"{double.Parse(unpacked) / 1024:0.0} KiB")} unpacked
              form        tar.xz for any-linux-any
              sha256      {sha256}
              placed      ~/root/.local/bin/scrim-paint
                          ~/root/.local/share/applications/scrim-paint.desktop
                          ~/root/.local/share/icons/hicolor/scalable/apps/scrim-paint.svg

            Not installed.
            catalogues refreshed just now
            next: acrate install scrim-paint
            """);
    }

    [Fact]
    public async Task About_says_where_the_card_is_silent_and_what_is_installed()
    {
        await using var sandbox = Sandbox.WithCatalogues();
        sandbox.Run("install", "truss-tally", "--yes").ShouldEnd(0);
        var about = sandbox.Run("about", "truss-tally").ShouldEnd(0).Out;
        about.ShouldContain("  homepage    not supplied\n  licence     not supplied\n  sign-in     not supplied\n  categories  Utility\n");
        about.ShouldContain("  review      unreviewed\n");
        about.ShouldContain("0.3 (installed)  stable  2026-07-19  not supplied\n");
        about.ShouldContain("Installed is 0.3\n");
        about.ShouldContain("  asked for   the newest\n  place       ~/root/.local/share/amber-crate/shelf/truss-tally/0.3+any\n  placed      ~/root/.local/bin/truss-tally\n");
        var json = sandbox.Run("about", "truss-tally", "--json").ShouldEnd(0).Json;
        json.GetProperty("installed").GetProperty("version").GetString().ShouldBe("0.3");
        json.GetProperty("card").GetProperty("releases").GetArrayLength().ShouldBe(1);
    }

    [Fact]
    public async Task Texts_of_a_catalogue_do_not_steer_the_terminal()
    {
        await using var sandbox = new Sandbox();
        var card = sandbox["house", "wardrobe-index.appcard.toml"];
        File.WriteAllText(card, File.ReadAllText(card).Replace("summary = \"Costumes by size", "summary = \"\\u001b[2J\\u202Eevil\\u0007 Costumes by size", StringComparison.Ordinal));
        sandbox.Run("catalogue", "add", "house", "house").ShouldEnd(0);
        var shown = sandbox.Run("search", "costumes").ShouldEnd(0).Out;
        shown.ShouldContain("Wardrobe Index: <001B>[2J<202E>evil<0007> Costumes by size");
        shown.ShouldNotContain('\u001b');
    }
}
