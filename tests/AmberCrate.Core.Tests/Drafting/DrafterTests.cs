using AmberCrate.Core.Cards;
using AmberCrate.Core.Drafting;
using AmberCrate.Core.Placements;
using AmberCrate.Core.Tests.Cards;
using AmberCrate.Core.Values;
using AmberCrate.Core.Versions;

namespace AmberCrate.Core.Tests.Drafting;

/// <summary>What a draft takes of a vendor's file, and what it asks about.</summary>
public sealed class DrafterTests
{
    private static readonly DateOnly Today = new(2026, 12, 1);

    private static readonly PackageContents Package = new()
    {
        FileName = "scrim-paint_4.2.1-1_amd64.deb", Format = ArtifactFormat.Deb, Sha256 = Sha256Digest.Parse(CardSamples.Digest),
        Size = 1000, Newest = new DateOnly(2026, 6, 1),
        Control = new Dictionary<string, string>
        {
            ["Package"] = "scrim-paint", ["Version"] = "4.2.1-1", ["Description"] = "paint scenery\nOn cloth.\n.\nAnd on walls.",
        },
        Files = [new PackedFile("usr/bin/scrim-paint", IsProgram: true)],
    };

    [Fact]
    public void A_package_alone_tells_who_it_is()
    {
        var draft = Draft(Package);
        (draft.Id.Text, draft.Name, draft.Summary, draft.Description, draft.Release.Version!.Text)
            .ShouldBe(("scrim-paint", "Scrim Paint", "paint scenery", "On cloth.\n\nAnd on walls.", "4.2.1-1"));
        draft.SystemPackages.ShouldBe(["scrim-paint"]);
        draft.Placement.Commands.ShouldHaveSingleItem().Path.Text.ShouldBe("usr/bin/scrim-paint");
    }

    [Theory]
    [InlineData("scrim-paint.desktop Exec=scrim-paint|scrim-paint-lite.desktop Exec=scrim-paint-lite", "scrim-paint")]
    [InlineData("a-viewer.desktop Exec=scrim-view|org.battenworks.scrim-paint.desktop Exec=scrim-paint",
        "org.battenworks.scrim-paint")]
    [InlineData("aaa.desktop Exec=scrim-view|zzz.desktop Exec=/usr/bin/scrim-paint %F", "zzz")]
    [InlineData("scrim-paint.desktop Exec=pkexec scrim-paint|other.desktop Exec=scrim-view", "other")]
    [InlineData("scrim-view-tablet.desktop Exec=scrim-view|scrim-view.desktop Exec=scrim-view", "scrim-view")]
    [InlineData("scrim-paint.desktop Exec=elsewhere", "Scrim Paint")]
    public void The_app_is_named_by_its_own_entry(string entries, string expected) => Draft(Package with
    {
        Files =
        [
            .. new[] { "scrim-paint", "scrim-paint-lite", "scrim-view" }.Select(
                name => new PackedFile($"usr/bin/{name}", IsProgram: true)),
        ],
        DesktopEntries = Entries(entries),
    }).Name.ShouldBe(expected);

    [Theory]
    [InlineData("desktop-application org.battenworks.scrim-paint", "org.battenworks.scrim-paint")]
    [InlineData("addon org.battenworks.scrim-comics", "scrim-paint")]
    [InlineData("addon a.comics|desktop-application org.battenworks.scrim-paint", "org.battenworks.scrim-paint")]
    [InlineData("desktop-application a.helper|desktop-application b.scrim-paint", "b.scrim-paint")]
    [InlineData("font a.glyphs|desktop-application scrim-view.desktop", "scrim-view")]
    public void The_identity_is_that_of_the_app_and_not_of_an_add_on(string metainfo, string expected)
    {
        var draft = Draft(Package with
        {
            Files = [new PackedFile("usr/bin/scrim-view", IsProgram: true), .. Package.Files],
            DesktopEntries = Entries("scrim-view.desktop Exec=scrim-view"),
            Metainfo =
            [
                .. metainfo.Split('|').Select(one => one.Split(' ')).Select((one, at) => (
                    $"usr/share/metainfo/{at}.metainfo.xml",
                    $"<component type=\"{one[0]}\"><id>{one[1]}</id><name>{one[1]}</name></component>")),
            ],
        });
        draft.Id.Text.ShouldBe(expected);
        draft.Questions.Any(question => question.EndsWith("is about an add-on, and was not used.", StringComparison.Ordinal))
            .ShouldBe(metainfo.Contains("addon", StringComparison.Ordinal));
    }

    [Theory]
    [InlineData("4.2.1-1", "4.2.1-1", false)]
    [InlineData("2:4.2.1-1", "4.2.1-1", true)]
    [InlineData("0:4.2.1", "4.2.1", false)]
    [InlineData("1:2025.01~rc1", "2025.01~rc1", true)]
    public void An_epoch_is_left_out_and_named(string version, string expected, bool isNamed)
    {
        var draft = Draft(Package with { Control = new Dictionary<string, string> { ["Package"] = "a", ["Version"] = version } });
        draft.Release.Version.ShouldBe(AppVersion.Parse(expected));
        draft.Questions.Any(question => question.StartsWith(
            $"The package's version is {version}. A card's version has no epoch", StringComparison.Ordinal)).ShouldBe(isNamed);
    }

    [Theory]
    [InlineData("usr/share/fonts/a.ttf usr/share/fonts/b.otf usr/share/doc/a/copyright", AppKind.Font, 2)]
    [InlineData("Batten.ttf LICENSE README.md specimen.pdf", AppKind.Font, 1)]
    [InlineData("usr/share/fonts/a.ttf etc/fonts/conf.d/60-a.conf", AppKind.Font, 1)]
    [InlineData("data/level1.pak data/level2.pak data/a.ttf data/b.ttf data/c.ttf data/d.ttf", AppKind.ConsoleApp, 0)]
    [InlineData("data/picture.png data/a.ttf", AppKind.ConsoleApp, 0)]
    public void Data_with_some_fonts_in_them_are_no_font(string files, AppKind kind, int fonts)
    {
        var draft = Draft(Package with { Files = [.. files.Split(' ').Select(path => new PackedFile(path, IsProgram: false))] });
        (draft.Kind, draft.Placement.Fonts.Count).ShouldBe((kind, fonts));
    }

    [Fact]
    public void English_of_a_country_is_no_translation()
    {
        var draft = Draft(Package with
        {
            DesktopEntries =
            [
                ("usr/share/applications/scrim-paint.desktop", """
                    [Desktop Entry]
                    Type=Application
                    Name=Scrim Paint
                    Name[en]=Scrim Paint
                    Name[en_GB]=Scrim Painter
                    Name[de]=Schleierfarbe
                    Exec=scrim-paint
                    """),
            ],
            Metainfo =
            [
                ("a.metainfo.xml", """
                    <component type="desktop-application"><id>scrim-paint</id><name>Scrim Paint</name>
                    <name xml:lang="en-GB">Scrim Painter</name><summary xml:lang="fr">Peindre</summary></component>
                    """),
            ],
        });
        draft.Translations.Select(text => text.Language).ShouldBe(["de", "fr"]);
    }

    [Theory]
    [InlineData("sound", "", "AudioVideo Audio")]
    [InlineData("contrib/games", "", "Game")]
    [InlineData("gnome", "", "")]
    [InlineData("sound", "Categories=Graphics;", "Graphics")]
    public void The_section_of_a_package_gives_the_categories_if_nothing_else_does(
        string section, string entry, string categories)
    {
        var draft = Draft(Package with
        {
            Control = new Dictionary<string, string> { ["Package"] = "scrim", ["Section"] = section },
            Metainfo = [],
            DesktopEntries = [("scrim.desktop", $"[Desktop Entry]\nType=Application\nName=Scrim\nExec=scrim-paint\n{entry}\n")],
        });
        string.Join(' ', draft.Categories).ShouldBe(categories);
        draft.Categories.ShouldAllBe(category => DesktopCategories.IsValid(category));
    }

    [Theory]
    [InlineData("scrim-paint-4.2.1-linux-x86_64.tar.gz", "scrim-paint", "4.2.1")]
    [InlineData("scrim_paint-v5.0.0-rc.2.zip", "scrim-paint", "5.0.0-rc2")]
    [InlineData("ScrimPaint.AppImage", "scrimpaint", null)]
    [InlineData("x86_64-scrim-1.2.tar.xz", "x86-64-scrim", "1.2")]
    [InlineData("1.2.3.zip", "app", "1.2.3")]
    public void Without_metadata_the_name_of_the_file_is_read_and_asked_about(string name, string id, string? version)
    {
        var draft = Draft(Package with
        {
            FileName = name,
            Format = ArtifactFormat.Zip,
            Control = new Dictionary<string, string>(),
        });
        (draft.Id.Text, draft.Release.Version?.Text).ShouldBe((id, version));
        draft.Questions.Contains($"The version {version} is from the file's name: is it right?").ShouldBe(version is not null);
    }

    private static CardDraft Draft(PackageContents contents) => new Drafter(contents, "files/a", Today).Draft();

    /// <summary>Entries as "FILE Exec=..."; their name for people is the file's.</summary>
    private static List<(string Path, string Text)> Entries(string entries) =>
    [
        .. entries.Split('|').Select(entry => entry.Split(' ', 2)).Select(entry => (
            $"usr/share/applications/{entry[0]}",
            $"[Desktop Entry]\nType=Application\nName={entry[0][..^".desktop".Length]}\n{entry[1]}\n")),
    ];
}
