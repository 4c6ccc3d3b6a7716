using AmberCrate.Core.Machine;

namespace AmberCrate.Core.Tests.Machine;

public sealed class ObservedAppTests
{
    [Theory]
    [InlineData("2:9.0.1378-2+deb12u2", "9.0.1378")]
    [InlineData("1.2.3-1", "1.2.3")]
    [InlineData("1.2.3+dfsg-4", "1.2.3")]
    [InlineData("1.2.3~rc1-1", "1.2.3~rc1")]
    [InlineData("20230311", "20230311")]
    [InlineData("1.0-2-3", "1.0-2")]
    [InlineData(null, null)]
    [InlineData("", null)]
    public void A_packages_version_is_that_of_its_software(string? text, string? version) =>
        new ObservedApp(ObservedKind.SystemPackage, "gauze") { VersionText = text }.Version?.Text.ShouldBe(version);
}
