using AmberCrate.Core.Values;

namespace AmberCrate.Core.Tests.Values;

/// <summary>What is an address, and which architectures there are: each is known in one place.</summary>
public sealed class OwnersTests
{
    [Theory]
    [InlineData("https://guild.example/", true, true, false)]
    [InlineData("HTTP://guild.example/", true, true, true)]
    [InlineData("file:///srv/guild", true, false, false)]
    [InlineData("/srv/guild", false, false, false)]
    [InlineData("guild:frame", false, false, false)]
    public void An_address_has_a_scheme(string text, bool isAddress, bool isOfWeb, bool isPlain) =>
        (Address.Is(text), Address.IsOfWeb(text), Address.IsPlain(text)).ShouldBe((isAddress, isOfWeb, isPlain));

    [Fact]
    public void Every_architecture_is_a_platform_and_has_one_name_and_number()
    {
        foreach (var one in ProcessorArchitecture.All)
        {
            Platform.Parse($"{one.Name}-linux-gnu").Architecture.ShouldBe(one.Name);
            ProcessorArchitecture.Named(one.Name).ShouldBe(one);
            ProcessorArchitecture.OfElf(one.ElfMachine).ShouldBe(one);
            if (one.Runs32BitOf is { } other) ProcessorArchitecture.Named(other).ShouldNotBeNull();
        }
    }

    [Theory]
    [InlineData("any-linux-any", true)]
    [InlineData("any-linux-gnu", true)]
    [InlineData("x86_64-linux-gnu", false)]
    [InlineData("aarch64-linux-any", false)]
    public void On_a_machine_of_an_unknown_architecture_runs_only_what_runs_on_any(string artifact, bool runs)
    {
        Platform.Parse(artifact).RunsOn(Platform.OfOtherMachine).ShouldBe(runs);
        Platform.TryParse(Platform.OfOtherMachine.ToString(), out _).ShouldBeFalse();
    }
}
