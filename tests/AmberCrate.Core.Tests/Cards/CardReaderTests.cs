using System.Text;
using AmberCrate.Core.CardFiles;
using AmberCrate.Core.Cards;
using AmberCrate.Core.Placements;
using AmberCrate.Core.Values;

namespace AmberCrate.Core.Tests.Cards;

public sealed class CardReaderTests
{
    private const string Full = $$"""
        appcard = 1
        id = "scrim-paint"
        type = "desktop-application"
        name = "Scrim Paint"
        summary = "Paint backdrops to scale"
        description = '''
        Two
        lines'''
        homepage = "https://scrim-paint.example"
        project_license = "GPL-3.0-or-later WITH Classpath-exception-2.0 OR (MIT AND LicenseRef-house)"
        categories = ["Graphics", "X-Theatre"]
        keywords = ["cloth", "gauze"]
        sign_in = "optional"
        developer = { name = "Battenworks", id = "battenworks" }

        [review]
        state = "reviewed"
        date = 2026-09-01
        by = "Guild"

        [place]
        commands = [{ name = "scrim-paint", path = "bin/scrim" }]

        [[place.desktop_entries]]
        name = "scrim-paint"
        command = "scrim-paint"
        arguments = "%F"

        [[place.icons]]
        name = "scrim"
        path = "share/scrim.svg"
        size = "scalable"

        [[releases]]
        version = "4.1"
        date = 2026-01-02

          [[releases.artifacts]]
          platform = "x86_64-linux-gnu"
          location = "https://files.example/scrim%20paint.zip"
          format = "zip"
          sha256 = "{{CardSamples.Digest}}"
          download_size = 1234
          installed_size = 4321
          strip = 1

        [[releases]]
        version = "5.0-rc1"
        date = 2026-02-03
        description = "News"

          [[releases.artifacts]]
          platform = "any-linux-any"
          location = "files/scrim"
          format = "executable"
          sha256 = "{{CardSamples.Digest}}"
          download_size = 12
          filename = "scrim"

          [releases.place]
          commands = [{ name = "scrim-paint", path = "scrim" }]
        """;

    [Fact]
    public void Every_key_is_read()
    {
        var card = CardSamples.Read(Full, "scrim-paint.appcard.toml");
        card.Id.Text.ShouldBe("scrim-paint");
        card.Kind.ShouldBe(AppKind.DesktopApp);
        (card.Name, card.Summary, card.Description).ShouldBe(("Scrim Paint", "Paint backdrops to scale", "Two\nlines"));
        card.Licence.ShouldStartWith("GPL-3.0-or-later");
        card.Developer.ShouldBe(new Developer("Battenworks", "battenworks"));
        card.Categories.ShouldBe(["Graphics", "X-Theatre"]);
        card.SignIn.ShouldBe(SignIn.Optional);
        card.Review.ShouldBe(new Review(ReviewState.Reviewed, new DateOnly(2026, 9, 1), "Guild"));
        card.Placement.DesktopEntries[0].Arguments.ShouldBe("%F");
        card.Placement.Icons[0].Size.ShouldBe("scalable");
        card.Releases.Select(release => $"{release.Version} {release.Line}").ShouldBe(["5.0-rc1 preview", "4.1 stable"]);
        card.Releases[0].Artifacts[0].ShelfFileName.ShouldBe("scrim");
        card.PlacementOf(card.Releases[0]).Commands[0].Path.Text.ShouldBe("scrim");
        card.PlacementOf(card.Releases[1]).Commands[0].Path.Text.ShouldBe("bin/scrim");
        card.Releases[1].Artifacts[0].ShouldBe(new Artifact
        {
            Platform = Platform.Parse("x86_64-linux-gnu"),
            Location = ArtifactLocation.Parse("https://files.example/scrim%20paint.zip"),
            Format = ArtifactFormat.Zip, Sha256 = Sha256Digest.Parse(CardSamples.Digest), DownloadSize = 1234,
            InstalledSize = 4321,
            StripFolders = 1,
        });
    }

    [Fact]
    public void A_card_survives_its_form_in_a_catalogue()
    {
        var card = CardSamples.Read(Full);
        var line = CardJson.Write(card);
        line.ShouldNotContain((byte)'\n');
        CardJson.Write(CardJson.Read(line)).ShouldBe(line);
        Encoding.UTF8.GetString(line).ShouldContain("\"project_license\":\"GPL-3.0-or-later");
    }

    [Theory]
    [InlineData("""{"id":"a"}""", "type")]
    [InlineData("""not json""", "invalid")]
    [InlineData("""{"id":"A B"}""", "expected an id")]
    [InlineData("""{"id":"a","type":"game"}""", "expected one of desktop-application")]
    [InlineData("""{"id":"a","surprise":1}""", "surprise")]
    public void A_faulty_line_of_a_catalogue_is_refused(string line, string says) =>
        Should.Throw<FormatException>(() => CardJson.Read(Encoding.UTF8.GetBytes(line))).Message.ShouldContain(says);

    [Fact]
    public void All_faults_of_a_card_are_found_at_once() => CardSamples.FaultsOf("""
        appcard = 2
        id = "Scrim Paint"
        type = "app"
        sumary = "Paint backdrops"
        summary = 7
        categories = ["Painting"]
        project_license = "GPL v3"
        [[releases]]
        version = "v4"
        [[releases.artifacts]]
        platform = "linux"
        location = "../secret"
        format = "rar"
        sha256 = "abc"
        download_size = 0
        [[place.commands]]
        name = "bin/scrim"
        path = "/bin/scrim"
        """).ShouldBe([
            "scrim.toml:1: appcard: expected a whole number from 1 to 1, found 2",
            "scrim.toml:1: name: expected a string, but the key is missing",
            "scrim.toml:2: id: expected an id of lower-case letters and digits, joined by single hyphens or dots, at most 80, "
                + "found \"Scrim Paint\"",
            "scrim.toml:3: type: expected one of \"desktop-application\", \"console-application\", \"runtime\", \"font\", "
                + "found \"app\"",
            "scrim.toml:4: sumary: unknown key; did you mean summary?",
            "scrim.toml:5: summary: expected a string, found 7",
            "scrim.toml:6: categories: expected a category registered in the Desktop Menu specification, or one of your own "
                + "that begins with X-, found \"Painting\"",
            "scrim.toml:7: project_license: expected an SPDX licence expression such as MIT, GPL-3.0-or-later or "
                + "LicenseRef-proprietary, found \"GPL v3\"",
            "scrim.toml:8: releases[1].date: expected a date such as 2026-09-01, without quotes, but the key is missing",
            "scrim.toml:9: releases[1].version: expected a version that begins with a digit: digits, letters and . - + _ ~ ^, "
                + "at most 64, without '..' or a trailing '.x', found \"v4\"",
            "scrim.toml:11: releases[1].artifacts[1].platform: expected an AppStream platform triplet such as "
                + "x86_64-linux-gnu, aarch64-linux-gnu or any-linux-any, found \"linux\"",
            "scrim.toml:12: releases[1].artifacts[1].location: expected a path relative to the catalogue that stays inside it, "
                + "or an http:, https: or file: address, found \"../secret\"",
            "scrim.toml:13: releases[1].artifacts[1].format: expected one of "
                + $"{string.Join(", ", CardWords.Formats.Pairs.Select(pair => $"\"{pair.Word}\""))}, found \"rar\"",
            "scrim.toml:14: releases[1].artifacts[1].sha256: expected a SHA-256 digest of 64 lower-case hexadecimal digits, "
                + "found \"abc\"",
            "scrim.toml:15: releases[1].artifacts[1].download_size: expected a whole number from 1 to 1125899906842624, found 0",
            $"scrim.toml:17: place.commands[1].name: expected {CommandNameRule.Expected}, found \"bin/scrim\"",
            "scrim.toml:18: place.commands[1].path: expected a relative path with / that stays inside: no leading /, no . or "
                + ".. parts, no control characters, found \"/bin/scrim\"",
        ]);

    [Theory]
    [InlineData("appcard = 1\nid = \"a\"\nid = \"b\"", "scrim.toml:3: not valid TOML")]
    [InlineData("appcard = ", "scrim.toml:1: not valid TOML")]
    [InlineData("license = \"MIT\"", "scrim.toml:1: license: unknown key; did you mean project_license?")]
    [InlineData("licence = \"MIT\"", "scrim.toml:1: licence: unknown key; did you mean project_license?")]
    [InlineData("keyword = []", "scrim.toml:1: keyword: unknown key; did you mean keywords?")]
    [InlineData("releases = 3", "scrim.toml:1: releases: expected tables written as [[releases]], found 3")]
    public void Text_that_is_no_card_is_refused_with_its_line(string text, string says) =>
        CardSamples.FaultsOf(text).ShouldContain(fault => fault.StartsWith(says, StringComparison.Ordinal));

    [Theory]
    [InlineData("releases[2].version: expected each version once, found 1.0 again", "1.0 2026-01-01", "1.00 2026-01-02")]
    [InlineData("releases: expected at least one release")]
    public void Values_that_do_not_go_together_are_refused(string says, params string[] releases) =>
        CardSamples.FaultsOf(CardSamples.Text("a", releases))
            .ShouldHaveSingleItem()
            .ShouldContain(says.Replace("1.0 again", "1.00 again", StringComparison.Ordinal));

    [Fact]
    public void A_desktop_entry_must_start_a_command_of_the_card() =>
        CardSamples.FaultsOf(CardSamples.Text("a", "1 2026-01-01") + "[[place.desktop_entries]]\nname = \"a\"\ncommand = \"b\"\n")
            .ShouldHaveSingleItem().ShouldContain(
                "place.desktop_entries[1].command: expected the name of one of this app's commands, found \"b\"");

    [Fact]
    public void A_card_is_named_after_its_id() =>
        CardSamples.FaultsOf(CardSamples.Text("a", "1 2026-01-01"), "cards/b.appcard.toml")
            .ShouldHaveSingleItem().ShouldBe(
                "cards/b.appcard.toml:2: id: expected the id that the file is named after, \"b\", found \"a\"");

    [Theory]
    [InlineData("MIT", true)]
    [InlineData("GPL-2.0+", true)]
    [InlineData("(MIT OR Apache-2.0) AND CC0-1.0", true)]
    [InlineData("DocumentRef-x:LicenseRef-y", true)]
    [InlineData("MIT OR", false)]
    [InlineData("(MIT", false)]
    [InlineData("MIT MIT", false)]
    [InlineData("WITH", false)]
    [InlineData("MIT/X11", false)]
    [InlineData(" GPL-2.0-only  WITH\tClasspath-exception-2.0 ", true)]
    [InlineData("((MIT))", true)]
    [InlineData("MIT()", false)]
    [InlineData("a:", false)]
    [InlineData("a:-b+", true)]
    [InlineData("a:b:c", false)]
    [InlineData("-MIT", false)]
    [InlineData("MIT++", false)]
    [InlineData("MÏT", false)]
    [InlineData("", false)]
    public void Licence_expressions_follow_the_grammar(string text, bool expected) =>
        SpdxExpression.IsValid(text).ShouldBe(expected);
}
