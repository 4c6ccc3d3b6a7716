using AmberCrate.Core.Placements;

namespace AmberCrate.Core.Tests.Cards;

public sealed class CommandNameRuleTests
{
    [Theory]
    [InlineData("scrim-paint", true)]
    [InlineData("g++", true)]
    [InlineData("7z.so_1", true)]
    [InlineData("sudo", false)]
    [InlineData("sh", false)]
    [InlineData("acrate", true)]
    [InlineData("bwrap", false)]
    [InlineData("-rf", false)]
    [InlineData(".hidden", false)]
    [InlineData("ls;id", false)]
    [InlineData("\u0455udo", false)]
    [InlineData("a b", false)]
    [InlineData("", false)]
    public void A_command_has_a_plain_name_and_not_one_that_people_trust(string name, bool isOne) =>
        CommandNameRule.TryParse(name, out _).ShouldBe(isOne);
}
