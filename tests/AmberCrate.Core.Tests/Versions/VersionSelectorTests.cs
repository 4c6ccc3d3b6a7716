using AmberCrate.Core.Versions;

namespace AmberCrate.Core.Tests.Versions;

public sealed class VersionSelectorTests
{
    [Theory]
    [InlineData("4.2.0", "4.2.0", true)]
    [InlineData("4.2.0", "4.2.00", true)]
    [InlineData("4.2", "4.2.0", false)]
    [InlineData("5.0-rc1", "5.0-rc1", true)]
    [InlineData("4.2.x", "4.2", true)]
    [InlineData("4.2.x", "4.2.0", true)]
    [InlineData("4.2.x", "4.2.17", true)]
    [InlineData("4.2.x", "4.2.1-3", true)]
    [InlineData("4.2.x", "4.20.1", false)]
    [InlineData("4.2.x", "4.3.0", false)]
    [InlineData("4.2.x", "4.2.1-rc1", false)]
    [InlineData("4.x", "4.9", true)]
    [InlineData("4.x", "40.1", false)]
    [InlineData("4..5", "4", true)]
    [InlineData("4..5", "4.0", true)]
    [InlineData("4..5", "4.9.9", true)]
    [InlineData("4..5", "5", false)]
    [InlineData("4..5", "5.0.0", false)]
    [InlineData("4..5", "5.0-rc1", false)]
    [InlineData("4..5", "4.5-beta", false)]
    [InlineData("4..5", "3.9", false)]
    [InlineData("4..", "400", true)]
    [InlineData("4..", "3", false)]
    [InlineData("..5", "0.1", true)]
    [InlineData("..5", "5", false)]
    [InlineData("5.0-rc1..", "5.0-rc2", true)]
    [InlineData("5.0-rc1..", "5.0", true)]
    [InlineData("5.0-rc1..6", "6-rc1", false)]
    [InlineData("..5.0-rc2", "5.0-rc1", true)]
    public void Selectors_accept_versions(string selector, string version, bool expected)
    {
        var read = VersionSelector.Parse(selector);
        read.Accepts(AppVersion.Parse(version), ReleaseLine.Stable).ShouldBe(expected);
        read.ToString().ShouldBe(selector);
    }

    [Fact]
    public void A_word_is_a_release_line()
    {
        var lts = VersionSelector.Parse("lts");
        ReleaseLine.TryParse("lts", out var line).ShouldBeTrue();
        lts.Accepts(AppVersion.Parse("1"), line!).ShouldBeTrue();
        lts.Accepts(AppVersion.Parse("1"), ReleaseLine.Stable).ShouldBeFalse();
    }

    [Theory]
    [InlineData("")]
    [InlineData("..")]
    [InlineData("5..4")]
    [InlineData("4..4")]
    [InlineData("4.2.x.1x.x")]
    [InlineData("4-rc1.x")]
    [InlineData("LTS")]
    [InlineData("l t s")]
    [InlineData("4...5")]
    public void What_is_no_selector_is_refused(string text) =>
        Should.Throw<FormatException>(() => VersionSelector.Parse(text)).Message.ShouldContain("expected an exact version");
}
