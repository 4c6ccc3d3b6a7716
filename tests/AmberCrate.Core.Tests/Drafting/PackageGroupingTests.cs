using AmberCrate.Core.Cards;
using AmberCrate.Core.Drafting;
using AmberCrate.Core.Tests.Cards;
using AmberCrate.Core.Values;

namespace AmberCrate.Core.Tests.Drafting;

/// <summary>Which packages make one app together.</summary>
public sealed class PackageGroupingTests
{
    // Each package: name version, what it depends on; APP has a menu entry, BIN a program without one.
    [Theory]
    [InlineData("scrim APP > scrim-data, scrim-libs; scrim-data; scrim-libs", "scrim+scrim-data+scrim-libs")]
    [InlineData("scrim-data; scrim APP > scrim-data", "scrim+scrim-data")]
    [InlineData("scrim APP > scrim-data; scrim-data > scrim-sounds; scrim-sounds", "scrim+scrim-data+scrim-sounds")]
    [InlineData("scrim APP; rope APP", "scrim rope")]
    [InlineData("scrim APP > rope; rope APP", "scrim rope")]
    [InlineData("scrim APP > cloth; rope APP > cloth; cloth", "scrim+cloth rope+cloth")]
    [InlineData("a > b; b > a", "a+b")]
    [InlineData("scrim APP > a; a > b; b > a, scrim", "scrim+a+b")]
    [InlineData("scrim APP; scrim-plugins > scrim", "scrim+scrim-plugins")]
    [InlineData("scrim APP; scrim-dev > scrim", "scrim scrim-dev")]
    [InlineData("scrim APP; scrim-server BIN > scrim", "scrim scrim-server")]
    [InlineData("scrim APP; rope APP; both > scrim, rope", "scrim rope both")]
    [InlineData("tool BIN > libtool1; libtool1; other BIN", "tool+libtool1 other")]
    [InlineData("scrim APP > missing | scrim-data; scrim-data", "scrim+scrim-data")]
    [InlineData("scrim APP > scrim-data (= 2); scrim-data", "scrim scrim-data")]
    public void Packages_are_grouped_by_what_they_depend_on(string packages, string expected) =>
        string.Join(' ', PackageGrouping.Group([.. packages.Split(';').Select(Package)])
            .Select(group => string.Join('+', group.Files.Select(file => file.Contents.PackageName)))).ShouldBe(expected);

    [Fact]
    public void Each_version_takes_the_data_of_its_own_version()
    {
        DraftedFile[] files =
        [
            Package("scrim APP > scrim-data", "1"), Package("scrim-data", "2"), Package("scrim-data", "1"),
            Package("scrim APP > scrim-data", "2"),
        ];
        PackageGrouping.Group(files).Select(group => string.Join(' ', group.Files.Select(
            file => $"{file.Contents.PackageName} {file.Contents.Control["Version"]}")))
            .ShouldBe(["scrim 1 scrim-data 1", "scrim 2 scrim-data 2"]);
    }

    [Fact]
    public void What_the_files_need_of_each_other_is_not_required_of_the_system()
    {
        var group = PackageGrouping.Group([Package("scrim APP > scrim-data, cloth"), Package("scrim-data > scrim, hem")])
            .ShouldHaveSingleItem();
        group.Together.Dependencies.Select(one => one.Any[0].Name).ShouldBe(["cloth", "hem"]);
        var text = CardDraftText.Write(new Drafter(group, new DateOnly(2026, 1, 1)).Draft());
        text.Split("[[releases.artifacts]]").Length.ShouldBe(3);
        text.ShouldContain("location = \"files/scrim.deb\"");
        text.ShouldContain("location = \"files/scrim-data.deb\"");
        group.SharedPath.ShouldBe("usr/share/doc/x");
    }

    private static DraftedFile Package(string text) => Package(text, "1");

    private static DraftedFile Package(string text, string version)
    {
        var (head, depends) = text.Split('>') is [var before, var after] ? (before.Trim(), after.Trim()) : (text.Trim(), "");
        var name = head.Split(' ')[0];
        var (isApp, hasProgram) = (head.EndsWith("APP", StringComparison.Ordinal), head.Contains(' ', StringComparison.Ordinal));
        return new DraftedFile(new PackageContents
        {
            FileName = $"{name}_{version}_all.deb", Format = ArtifactFormat.Deb, Size = 1,
            Sha256 = Sha256Digest.Parse(CardSamples.Digest), UnpackedSize = 1,
            Control = new Dictionary<string, string>
            {
                ["Package"] = name, ["Version"] = version, ["Depends"] = depends,
                ["Section"] = name.EndsWith("-dev", StringComparison.Ordinal) ? "contrib/libdevel" : "graphics",
            },
            Files = [new PackedFile(hasProgram ? $"usr/bin/{name}" : "usr/share/doc/x", hasProgram),
                new PackedFile("usr/share/doc/x", false)],
            DesktopEntries = isApp
                ? [($"usr/share/applications/{name}.desktop",
                    $"[Desktop Entry]\nType=Application\nName={name}\nExec={name} %F\n")]
                : [],
        }, $"files/{name}.deb");
    }
}
