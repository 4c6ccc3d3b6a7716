using AmberCrate.Core.CardFiles;
using AmberCrate.Core.Cards;
using AmberCrate.Core.Drafting;
using AmberCrate.Core.Problems;
using AmberCrate.Core.Values;
using AmberCrate.Core.Versions;

namespace AmberCrate.Core.Tests.Cards;

public sealed class DraftingTests
{
    private const string Component = """
        <?xml version="1.0" encoding="UTF-8"?>
        <component type="desktop-application" xmlns:x="urn:other">
          <id>org.battenworks.ScrimPaint.desktop</id>
          <name>Scrim Paint</name>
          <name xml:lang="de">Gazemaler</name>
          <summary>Paint
            backdrops</summary>
          <summary xml:lang="x-test">xxPaintxx</summary>
          <description><p>Paints <em>gauzes</em>.</p><ul><li>to scale</li></ul><p xml:lang="de">Malt.</p></description>
          <project_license>GPL-3.0-or-later</project_license>
          <developer id="battenworks"><name>Battenworks</name></developer>
          <url type="homepage">https://scrim-paint.example</url>
          <categories><category>Graphics</category><category>Magic</category></categories>
          <keywords><keyword>gauze</keyword><keyword xml:lang="de">Schleier</keyword></keywords>
          <provides><mediatype>image/x-scrim</mediatype></provides>
          <screenshots><screenshot><caption>A sky</caption><image>https://scrim-paint.example/sky.png</image></screenshot>
            <screenshot><image>file:///etc/passwd</image></screenshot></screenshots>
          <launchable type="desktop-id">scrim-paint.desktop</launchable>
          <releases>
            <release version="4.2.1" date="2026-08-19T10:00:00Z" urgency="critical"><description><p>Mends seams.</p></description></release>
            <release version="4.2.0" timestamp="1780000000"/>
            <release date="2026-01-01"/>
          </releases>
        </component>
        """;

    private const string Entry = """
        # Menu
        [Desktop Entry]
        Type=Application
        Name=Scrim
        Comment=Paint walls
        Comment[fr]=Peindre
        Exec=env A=1 /usr/bin/scrim-paint %F
        Icon=scrim-paint
        MimeType=image/png;image/x-scrim;
        Categories=Graphics;2DGraphics;

        [Desktop Action new]
        Name=New
        """;

    private static readonly Sha256Digest Digest = Sha256Digest.Parse(CardSamples.Digest);

    [Fact]
    public void Metainfo_is_read_with_its_languages_releases_and_pictures()
    {
        var read = MetainfoReader.Read(Component);
        (read.English.Name, read.English.Summary, read.English.Description)
            .ShouldBe(("Scrim Paint", "Paint backdrops", "Paints gauzes.\n- to scale"));
        read.Translations.ShouldHaveSingleItem().ShouldSatisfyAllConditions(
            text => text.Language.ShouldBe("de"), text => text.Name.ShouldBe("Gazemaler"),
            text => text.Keywords.ShouldBe(["Schleier"]), text => text.Description.ShouldBe("Malt."));
        read.Screenshots.ShouldHaveSingleItem().Caption.ShouldBe("A sky");
        read.Releases.Select(release => (release.Version, release.Date, release.Urgency)).ShouldBe(
        [
            ("4.2.1", new DateOnly(2026, 8, 19), Urgency.Critical), ("4.2.0", new DateOnly(2026, 5, 28), null),
        ]);
    }

    [Theory]
    [InlineData("", "the metainfo cannot be read: Root element is missing")]
    [InlineData("<component><id>a</component>", "line 1")]
    [InlineData("<components/>", "no component")]
    [InlineData("<!DOCTYPE c [<!ENTITY a \"x\">]><component><id>&a;</id></component>", "a")]
    [InlineData("<html><body/></html>", "no component")]
    public void Faulty_metainfo_is_refused(string text, string says) =>
        Should.Throw<MalformedException>(() => MetainfoReader.Read(text)).Message.ShouldContain(says);

    [Fact]
    public void Metainfo_that_is_too_large_is_refused() => Should.Throw<MalformedException>(() =>
        MetainfoReader.Read($"<component><id>{new string('a', MetainfoReader.Most)}</id></component>"));

    [Fact]
    public void A_draft_of_a_package_is_a_card_as_it_is()
    {
        var package = Package() with { Metainfo = [("a.xml", Component)] };
        var text = CardDraftText.Write(new Drafter(package, "files/s.deb", Today).Draft());
        var card = CardSamples.Read(text, "org.battenworks.scrimpaint.appcard.toml");
        (card.Id.Text, card.Name, card.Summary, card.Licence, card.Developer!.Name)
            .ShouldBe(("org.battenworks.scrimpaint", "Scrim Paint", "Paint backdrops", "GPL-3.0-or-later", "Battenworks"));
        card.Categories.ShouldBe(["Graphics"]);
        card.MimeTypes.ShouldBe(["image/x-scrim", "image/png"]);
        card.Translations.Select(said => said.Language).ShouldBe(["de", "fr"]);
        card.Placement.Commands.ShouldHaveSingleItem().Path.Text.ShouldBe("usr/bin/scrim-paint");
        card.Placement.DesktopEntries.ShouldHaveSingleItem().Icon!.Text.ShouldBe("scrim-paint");
        card.Placement.Icons.Select(icon => icon.Size).ShouldBe(["48x48", "scalable"]);
        card.Placement.ManualPages.ShouldHaveSingleItem().Name.Text.ShouldBe("scrim-paint.1.gz");
        var release = card.Releases.ShouldHaveSingleItem();
        (release.Version.Text, release.Urgency, release.Notes, release.Date)
            .ShouldBe(("4.2.1-3", Urgency.Critical, "Mends seams.", new DateOnly(2026, 8, 19)));
        release.Artifacts[0].ShouldSatisfyAllConditions(
            artifact => artifact.Platform.ToString().ShouldBe("x86_64-linux-gnu"),
            artifact => artifact.DownloadSize.ShouldBe(10));
    }

    [Fact]
    public void What_is_not_known_is_a_question()
    {
        var package = new PackageContents
        {
            FileName = "mystery-1.2.run", Format = ArtifactFormat.Installer, Sha256 = Digest, Size = 7,
        };
        var text = CardDraftText.Write(new Drafter(package, "files/mystery-1.2.run", Today).Draft());
        text.ShouldContain("# summary = \"\"  # What is it, in one line? This key is required.");
        text.ShouldContain("# project_license = \"\"");
        text.ShouldContain("version = \"1.2\"");
        text.ShouldContain("The version 1.2 is from the file's name: is it right?");
        var faults = new List<FormatFault>();
        CardReader.Read(text, "mystery.appcard.toml", faults).ShouldBeNull();
        faults.ShouldHaveSingleItem().Key.ShouldBe("summary");
    }

    [Theory]
    [InlineData("Exec=gone %F", 0)]
    [InlineData("Exec=", 0)]
    [InlineData("Exec=\"/opt/scrim/scrim-paint\" --x", 1)]
    public void Menu_entries_that_start_nothing_in_the_package_are_left_out(string exec, int placed)
    {
        var package = Package() with { DesktopEntries = [("a.desktop", $"[Desktop Entry]\nType=Application\nName=A\n{exec}\n")] };
        var draft = new Drafter(package, "files/s.deb", Today).Draft();
        draft.Placement.DesktopEntries.Count.ShouldBe(placed);
        draft.Questions.Any(question => question.Contains("it is left out", StringComparison.Ordinal)).ShouldBe(placed == 0);
    }

    [Fact]
    public void A_release_is_added_and_all_else_stays()
    {
        var card = CardSamples.Text("a", "1.0 2026-01-01")
            .Replace("[[releases]]", "# Why: the frame needs it\n[[releases]]  # old");
        var added = CardEditing.With(card, "a.appcard.toml", Release("1.1"));
        added.Replace(CardDraftText.Write(Release("1.1"), null) + "\n", "").ShouldBe(card);
        CardSamples.Read(added, "a.appcard.toml").Releases.Select(release => release.Version.Text).ShouldBe(["1.1", "1.0"]);
        Should.Throw<ProblemException>(() => CardEditing.With(added, "a.appcard.toml", Release("1.1")))
            .Problem.Code.ShouldBe(ProblemCode.Refused);
    }

    [Fact]
    public void A_file_for_another_platform_joins_its_release()
    {
        var card = CardSamples.Text("a", "1.0 2026-01-01") + "\n[place]\ncommands = []\n";
        var added = CardEditing.With(card, "a.appcard.toml", Release("1.0"));
        var release = CardSamples.Read(added, "a.appcard.toml").Releases.ShouldHaveSingleItem();
        release.Artifacts.Select(artifact => artifact.Platform.ToString()).ShouldContain("x86_64-linux-gnu");
        release.Artifacts.Count.ShouldBe(2);
        added.IndexOf("[place]", StringComparison.Ordinal)
            .ShouldBeGreaterThan(added.LastIndexOf("sha256", StringComparison.Ordinal));
    }

    [Theory]
    [InlineData("releases[1].version", "expected a version, found \"v0.8.10\"", "write \"0.8.10\"")]
    [InlineData("categories", "expected a category, found \"Grafics\"", "did you mean Graphics?")]
    [InlineData("project_license", "expected SPDX, found \"MIT and BSD-2-Clause\"", "write AND in capitals")]
    [InlineData("project_license", "expected SPDX, found \"MIT, ISC\"", "write AND or OR between licences")]
    public void Usual_mistakes_have_a_hint(string key, string message, string hint) =>
        CardHints.With(new FormatFault("a", 1, key, message)).Message.ShouldBe($"{message}; {hint}");

    [Theory]
    [InlineData("GPL-3.0-or-later AND (MIT OR LicenseRef-x)", "", null)]
    [InlineData("GPLv2+", "GPLv2+", "GPL-2.0-or-later")]
    [InlineData("LGPL2.1", "LGPL2.1", "LGPL-2.1-only")]
    [InlineData("Apache-2", "Apache-2", "Apache-2.0")]
    [InlineData("mit", "mit", "MIT")]
    [InlineData("GPL-2.0-only WITH Classpath-exception-2.0", "", null)]
    public void Licences_that_are_not_on_the_list_are_told_with_a_hint(string licence, string unknown, string? meant)
    {
        string.Join(' ', SpdxLicences.UnknownIn(licence)).ShouldBe(unknown);
        if (unknown.Length > 0) SpdxLicences.Nearest(unknown).ShouldBe(meant);
    }

    [Theory]
    [InlineData("flyrope-terminal-3.4.0", "flyrope-terminal", "3.4.0")]
    [InlineData("dimmer-desk-1.0.0-rc1.tar.zst", "dimmer-desk", "1.0.0-rc1")]
    [InlineData("scrim_paint-v5.0beta2.tar.gz", "scrim-paint", "5.0-beta2")]
    [InlineData("Scrim-Paint-linux-x86_64-4.2.1.tar.gz", "scrim-paint", "4.2.1")]
    [InlineData("scrim-4.2.1-previewer.tar.gz", "scrim", "4.2.1")]
    [InlineData("scrim-4.2.1-linux-x86_64.tar.gz", "scrim", "4.2.1")]
    [InlineData("Scrim-x86_64.AppImage", "scrim", null)]
    [InlineData("4.2.tar.gz", "app", "4.2")]
    public void A_files_name_tells_app_and_version(string file, string id, string? version)
    {
        var package = new PackageContents { FileName = file, Format = ArtifactFormat.TarGz, Sha256 = Digest, Size = 7 };
        var draft = new Drafter(package, $"files/{file}", Today).Draft();
        (draft.Id.Text, draft.Release.Version?.Text).ShouldBe((id, version));
    }

    private static DateOnly Today => new(2026, 11, 1);

    private static ReleaseDraft Release(string version) =>
        new(AppVersion.Parse(version), Today, new PackageGroup([new DraftedFile(Package(), "files/scrim.deb")]));

    private static PackageContents Package() => new()
    {
        FileName = "scrim-paint_4.2.1-3_amd64.deb", Format = ArtifactFormat.Deb, Sha256 = Digest, Size = 10, UnpackedSize = 20,
        Newest = new DateOnly(2026, 8, 1), Platform = Platform.Parse("x86_64-linux-gnu"),
        Control = new Dictionary<string, string> { ["Package"] = "scrim-paint", ["Version"] = "1:4.2.1-3" },
        DesktopEntries = [("usr/share/applications/scrim-paint.desktop", Entry)],
        Files =
        [
            new PackedFile("usr/bin/scrim-paint", IsProgram: true), new PackedFile("usr/lib/libscrim.so.1", IsProgram: true),
            new PackedFile("usr/share/icons/hicolor/48x48/apps/scrim-paint.png", false, 48),
            new PackedFile("usr/share/icons/hicolor/scalable/apps/scrim-paint.svg", false),
            new PackedFile("usr/share/icons/hicolor/scalable/apps/other.svg", false),
            new PackedFile("usr/share/man/man1/scrim-paint.1.gz", false),
            new PackedFile("usr/share/man/man1/scrim.1.gz", false, IsLink: true),
        ],
    };
}
