using AmberCrate.Core.Bundles;
using AmberCrate.Core.Values;

namespace AmberCrate.Core.Tests.Bundles;

public sealed class MachineMatchTests
{
    [Theory]
    [InlineData("paintframe-01", "paintframe-01", true)]
    [InlineData("paintframe-*", "PaintFrame-01", true)]
    [InlineData("paintframe-*", "paintframe-", true)]
    [InlineData("paintframe-*", "paintframe", false)]
    [InlineData("*-01", "booth-01", true)]
    [InlineData("*-01", "booth-012", false)]
    [InlineData("b*th*", "booth-02", true)]
    [InlineData("*", "", true)]
    [InlineData("a", "", false)]
    [InlineData("a*a*a*a*a*a*a*a*b", "aaaaaaaaaaaaaaaaaaaaaaaaaaaaaaaaaaaaaaaa", false)]
    public void A_pattern_fits_names(string pattern, string host, bool fits) =>
        new MachineMatch { Hosts = [pattern] }.Fits(host, Platform.Parse("x86_64-linux-gnu")).ShouldBe(fits);

    [Theory]
    [InlineData("", true)]
    [InlineData("any-linux-any", true)]
    [InlineData("aarch64-linux-gnu", false)]
    [InlineData("aarch64-linux-gnu x86_64-linux-any", true)]
    public void One_of_the_platforms_must_run(string platforms, bool fits) =>
        new MachineMatch
        {
            Platforms = [.. platforms.Split(' ', StringSplitOptions.RemoveEmptyEntries).Select(Platform.Parse)],
        }.Fits("booth", Platform.Parse("x86_64-linux-gnu")).ShouldBe(fits);

    [Theory]
    [InlineData("a b")]
    [InlineData("")]
    [InlineData("über")]
    [InlineData("a/b")]
    public void Not_every_text_is_a_pattern(string text) => MachineMatch.IsPattern(text).ShouldBeFalse();
}
