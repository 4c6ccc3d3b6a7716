namespace AmberCrate.Cli.Tests;

public sealed class FindTests(ReadCommandsFixture fixture) : IClassFixture<ReadCommandsFixture>
{
    /// <summary>A sandbox for tests that only look.</summary>
    private readonly Sandbox _sandbox = fixture.Sandbox;

    /// <summary>The same with catalogues that have just been refreshed: on a slow machine these tests take minutes.</summary>
    private Sandbox Fresh
    {
        get
        {
            _sandbox.Prepare.Refresh();
            return _sandbox;
        }
    }

    [Fact]
    public async Task Search_finds_by_purpose_and_shows_what_is_installed()
    {
        await using var sandbox = Sandbox.WithCatalogues();
        sandbox.Prepare.Install("scrim-paint@4.1.2");
        sandbox.Run("search", "drawing").ShouldPrint(0, """
            3 apps in house, guild
            app               version  installed  catalogue  kind         found by  what it is
            gantry-plot       2.1.0               guild      desktop app  category  Gantry Plot: Rigging plans for flown scenery
            scrim-paint       4.2.1    4.1.2      guild      desktop app  category  Scrim Paint: Paint backdrops and gauzes to scale
            backcloth-render  4.0.0               guild      desktop app  category  Backcloth Render: Render painted cloths under stage light
            catalogues refreshed just now
            """);
    }

    [Theory]
    [InlineData("Scrim Paint")]
    [InlineData("scrim-paint")]
    [InlineData("SCRIMPAINT")]
    [InlineData("paint scrim")]
    [InlineData("gauze")]
    [InlineData("scrím")]
    public void Spelling_hardly_matters(string words)
    {
        var found = _sandbox.Run("search", words, "--json").ShouldEnd(0).Json;
        found.GetProperty("results")[0].GetProperty("id").GetString().ShouldBe("scrim-paint");
    }

    [Theory]
    [InlineData("\"", 3)]
    [InlineData("a\" OR b*", 3)]
    [InlineData("NEAR(a b)", 3)]
    [InlineData("-paint'", 0)]
    [InlineData("!!! ??? ...", 3)]
    public void Operators_and_quotes_are_only_words(string words, int exitCode) =>
        _sandbox.Run("search", "--", words).ShouldEnd(exitCode);

    [Theory]
    [InlineData("gantrx-plot", "gantry-plot")]
    [InlineData("scirm paint", "scrim-paint")]
    [InlineData("scrimpiant", "scrim-paint")]
    [InlineData("lightnig", "dimmer-desk")]
    public void A_letter_or_two_may_be_wrong_and_that_is_said(string words, string expected)
    {
        var found = _sandbox.Run("search", words, "--json").ShouldEnd(0).Json.GetProperty("results")[0];
        (found.GetProperty("id").GetString(), found.GetProperty("guess").GetBoolean()).ShouldBe((expected, true));
        _sandbox.Run("search", words).ShouldEnd(0).Out.ShouldStartWith(
            $"Nothing matches \"{words}\" as it is spelled; these are guesses.\n");
    }

    [Theory]
    [InlineData("gantry-plot scrim-paint", "--category", "drawing", "--licence", "gpl-3.0-or-later")]
    [InlineData("dimmer-desk", "--category", "AudioVideo", "--developer", "gaslight", "--licence", "Apache-2.0")]
    [InlineData("poster-cut", "--kind", "font")]
    [InlineData("batten-runtime", "--kind", "runtime", "--catalogue", "guild")]
    [InlineData("cue-ledger", "--installed")]
    [InlineData("flyrope-terminal", "--kind", "console", "--not-installed", "--reviewed", "--catalogue", "guild")]
    [InlineData("thundersheet", "sound", "--not-installed", "--catalogue", "guild")]
    [InlineData("flyrope-terminal cue-ledger", "--kind", "console", "--sort", "name", "--catalogue", "guild", "--reviewed",
        "--limit", "9", "~reverse")]
    [InlineData("trapdoor-carry thundersheet", "--category", "network", "--sort", "newest", "~or-sound")]
    public void Filters_narrow_and_list(string expected, params string[] arguments)
    {
        var ids = _sandbox.Run(["search", "--json", .. arguments.Where(argument => argument[0] != '~')]).ShouldEnd(0).Json
            .GetProperty("results")
            .EnumerateArray().Select(result => result.GetProperty("id").GetString()!).ToList();
        var wanted = expected.Split(' ');
        if (arguments[^1] == "~reverse") ids.ShouldBe(wanted.Reverse());
        else if (arguments[^1] == "~or-sound") ids.ShouldBe(wanted[..1]);
        else ids.ShouldBe(wanted);
    }

    [Fact]
    public void Newest_first_goes_by_the_newest_release()
    {
        var dates = _sandbox.Run("search", "--reviewed", "--sort", "newest", "--json").ShouldEnd(0).Json.GetProperty("results")
            .EnumerateArray()
            .Select(result => _sandbox.Run("about", result.GetProperty("id").GetString()!, "--json").Json.GetProperty("card")
                .GetProperty("releases")[0].GetProperty("date").GetString()!).ToList();
        dates.Count.ShouldBeGreaterThan(5);
        dates.ShouldBe(dates.OrderDescending(StringComparer.Ordinal));
    }

    [Theory]
    [InlineData("search needs words, or a filter to list by")]
    [InlineData("--kind takes desktop, console, runtime or font, not \"game\"", "--kind", "game")]
    [InlineData("--sort takes match, name, newest or popular, not \"size\"", "paint", "--sort", "size")]
    [InlineData("--limit takes a whole number from 1", "paint", "--limit", "0")]
    [InlineData("--installed and --not-installed exclude each other", "--installed", "--not-installed")]
    public void A_search_that_cannot_be_meant_is_refused(string says, params string[] arguments)
    {
        _sandbox.Run(["search", .. arguments]).ShouldFail(2, $"acrate: {says}\n  next: acrate search --help");
    }

    [Fact]
    public void A_search_without_a_result_says_who_was_asked()
    {
        Fresh.Run("search", "quasar").ShouldPrint(3, """
            Nothing matches "quasar".
            asked: house (5 apps), guild (10 apps) · catalogues refreshed just now
            next: acrate search --category WORD
            """);
        _sandbox.Run("search", new string('x', 10_000)).ShouldEnd(3);
        _sandbox.Run("search", "paint", "--catalogue", "loft").ShouldRefuse(3, "no catalogue in use is called \"loft\"");
        Fresh.Run("search", "paint", "--catalogue", "house").ShouldPrint(3, """
            Nothing matches "paint".
            asked: house (5 apps) · catalogue refreshed just now
            next: acrate search --category WORD
            """);
    }

    [Fact]
    public async Task A_machine_without_catalogues_says_so()
    {
        await using var sandbox = new Sandbox();
        sandbox.Run("search", "paint").ShouldPrint(3, """
            No catalogue has been added, so there is nothing to search.
            next: acrate catalogue add NAME LOCATION
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
        var sha256 = File.ReadLines(sandbox["guild", "scrim-paint.appcard.toml"])
            .Last(line => line.StartsWith("sha256", StringComparison.Ordinal))
            .Split('"')[1];
        var size = new FileInfo(sandbox["guild", "files", "scrim-paint-4.2.1.tar.xz"]).Length;
        var unpacked = File.ReadLines(sandbox["guild", "scrim-paint.appcard.toml"])
            .Last(line => line.StartsWith("installed_size", StringComparison.Ordinal))
            .Split(' ')[2];
        sandbox.Run("about", "Scrim Paint").ShouldPrint(0, $"""
            Scrim Paint  scrim-paint
            Paint backdrops and gauzes to scale

              Squares a sketch up to the size of a cloth, so that painters can follow it on the frame.
              Reads sketches as plain text.

              kind           desktop app
              developer      Battenworks (battenworks), confirmed by the catalogue
              homepage       https://scrim-paint.example
              licence        GPL-3.0-or-later (free; changed copies must stay free)
              sign-in        not needed
              licence key    not needed
              attention      none
              categories     Graphics, 2DGraphics, RasterGraphics
              keywords       backdrop, gauze, cloth, scale
              review         reviewed 2026-09-14 by Stagecraft guild, software table
              catalogue      guild

            line    newest  date        what is new
            stable  4.2.1   2026-08-19  Mends the count of hessian seams.
            3 releases in all; --releases shows each

            On this machine scrim-paint@4.2.1 would be
              downloaded     ~/guild/files/scrim-paint-4.2.1.tar.xz
              size           {size} B, {(int.Parse(unpacked) < 1024 ? $"{unpacked} B" : $"{double.Parse(unpacked) / 1024:0.0} KiB")} unpacked
              format         tar.xz for any-linux-any
              sha256         {sha256}
              needs          no other app
              of the system  not supplied
              placed         ~/root/.local/bin/scrim-paint
                             ~/root/.local/share/applications/scrim-paint.desktop
                             ~/root/.local/share/icons/hicolor/scalable/apps/scrim-paint.svg

            Not installed.
            catalogues refreshed just now
            next: acrate install scrim-paint
            """);
    }

    [Fact]
    public void About_shows_every_release_when_asked_and_ends_in_the_command_for_what_was_named()
    {
        var about = _sandbox.Run("about", "guild:scrim-paint@4.1.x", "--releases").ShouldEnd(0).Out;
        about.ShouldContain("""
            release  line    date        what is new
            4.2.1    stable  2026-08-19  Mends the count of hessian seams.
            4.2.0    stable  2026-05-30  Cloths may be wider than twelve metres.
            4.1.2    stable  2026-01-20  Mends squares that were half a hand too wide.

            On this machine scrim-paint@4.1.2 would be
            """);
        about.ShouldEndWith("next: acrate install guild:scrim-paint@4.1.x\n");
        _sandbox.Run("about", "backcloth-render").ShouldEnd(0).Out.ShouldContain(
            "stable  4.0.0   2026-06-15  Cold light.\nlts     3.6.4   2026-02-28");
    }

    [Fact]
    public void Several_apps_are_shown_side_by_side()
    {
        var lines = _sandbox.Run("about", "dimmer-desk", "Seatmap Teller").ShouldEnd(0).Out.Split('\n');
        lines[0].Split("  ", StringSplitOptions.RemoveEmptyEntries | StringSplitOptions.TrimEntries)
            .ShouldBe(["dimmer-desk", "seatmap-teller"]);
        Row("attention").ShouldBe(
            ["restart the machine to finish", "shows a dialog at first start; terms of a licence must be accepted"]);
        Row("licence key").ShouldBe(["not needed", "needed"]);
        Row("catalogue").ShouldBe(["guild", "house"]);
        Row("next").ShouldBe(["acrate install dimmer-desk", "acrate install seatmap-teller"]);
        _sandbox.Run("about", "dimmer-desk", "Seatmap Teller", "--json").ShouldEnd(0).Json.GetProperty("apps").EnumerateArray()
            .Select(app => app.GetProperty("card").GetProperty("id").GetString()).ShouldBe(["dimmer-desk", "seatmap-teller"]);
        _sandbox.Run("about", "dimmer-desk", "seatmap-taler").ShouldFail(3, """
            acrate: no app is called "seatmap-taler"
              why: searched the catalogues house, guild
              next: did you mean one of these?
                seatmap-teller  Seatmap Teller: Seat plans for the box office
            """);

        string[] Row(string name) => lines.Single(line => line.StartsWith(name + "  ", StringComparison.Ordinal))[name.Length..]
            .Split("  ", StringSplitOptions.RemoveEmptyEntries)
            .Select(cell => cell.Trim())
            .ToArray();
    }

    [Fact]
    public async Task About_says_where_the_card_is_silent_and_what_is_installed()
    {
        await using var sandbox = Sandbox.WithCatalogues();
        sandbox.Prepare.Install("truss-tally");
        var about = sandbox.Run("about", "truss-tally").ShouldEnd(0).Out;
        about.ShouldContain(
            "  homepage       not supplied\n  licence        not supplied\n  sign-in        not supplied\n"
                + "  licence key    not supplied\n  attention      not supplied\n  categories     Utility\n");
        about.ShouldContain("  review         unreviewed\n");
        about.ShouldContain("stable  0.3     2026-07-19  installed        not supplied\n");
        about.ShouldContain("Installed is 0.3\n");
        about.ShouldContain(
            "  follows        the newest\n  place          ~/root/.local/share/amber-crate/shelf/truss-tally/0.3+any\n"
                + "  placed         ~/root/.local/bin/truss-tally\n");
        var json = sandbox.Run("about", "truss-tally", "--json").ShouldEnd(0).Json;
        json.GetProperty("installed").GetProperty("version").GetString().ShouldBe("0.3");
        json.GetProperty("card").GetProperty("releases").GetArrayLength().ShouldBe(1);
    }

    [Fact]
    public async Task A_list_names_apps_in_the_language_of_the_person_and_finds_them_by_either_name()
    {
        await using var sandbox = new Sandbox();
        var card = sandbox["guild", "truss-tally.appcard.toml"];
        var text = File.ReadAllText(card);
        File.WriteAllText(card, text.Replace(
            "[[releases]]", "[translations.de]\nname = \"Traversenzähler\"\n\n[[releases]]", StringComparison.Ordinal));
        sandbox.Run("catalogue", "add", "guild", "guild").ShouldEnd(0);
        sandbox.Prepare.Install("truss-tally");
        sandbox.Run("list").ShouldEnd(0).Out.ShouldContain("Truss Tally");
        sandbox.Variables["LC_ALL"] = "de_AT.UTF-8";
        foreach (var words in new[] { Array.Empty<string>(), ["traversen"], ["tally"] })
            sandbox.Run(["list", .. words]).ShouldEnd(0).Out.ShouldContain("Traversenzähler");
    }

    [Fact]
    public async Task Texts_of_a_catalogue_do_not_steer_the_terminal()
    {
        await using var sandbox = new Sandbox();
        var card = sandbox["house", "wardrobe-index.appcard.toml"];
        File.WriteAllText(card, File.ReadAllText(card).Replace(
            "summary = \"Costumes by size", "summary = \"\\u001b[2J\\u202Eevil\\u0007 Costumes by size",
            StringComparison.Ordinal));
        sandbox.Run("catalogue", "add", "house", "house").ShouldEnd(0);
        var shown = sandbox.Run("search", "costumes").ShouldEnd(0).Out;
        shown.ShouldContain("Wardrobe Index: <001B>[2J<202E>evil<0007> Costumes by size");
        shown.ShouldNotContain('\u001b');
    }
}
