using AmberCrate.Core.Versions;

namespace AmberCrate.Core.Tests.Versions;

public sealed class AppReferenceTests
{
    [Theory]
    [InlineData("scrim-paint", null, "scrim-paint", null)]
    [InlineData("scrim-paint@4.2.x", null, "scrim-paint", "4.2.x")]
    [InlineData("guild:scrim-paint@lts", "guild", "scrim-paint", "lts")]
    [InlineData("guild:scrim-paint", "guild", "scrim-paint", null)]
    [InlineData("Scrim Paint@..5", null, "Scrim Paint", "..5")]
    public void References_have_three_parts(string text, string? catalogue, string name, string? selector)
    {
        var reference = AppReference.Parse(text);
        (reference.Catalogue?.Text, reference.Name, reference.Selector?.ToString()).ShouldBe((catalogue, name, selector));
        reference.ToString().ShouldBe(text);
    }

    [Theory]
    [InlineData("", "expected [catalogue:]app[@selector]")]
    [InlineData("@4", "expected [catalogue:]app[@selector]")]
    [InlineData("a@", "expected an exact version")]
    [InlineData("a@b@c", "expected [catalogue:]app[@selector]")]
    [InlineData("UP:a", "expected a catalogue name")]
    [InlineData("a\u0007", "expected [catalogue:]app[@selector]")]
    public void What_is_no_reference_is_refused(string text, string says) =>
        Should.Throw<FormatException>(() => AppReference.Parse(text)).Message.ShouldContain(says);
}
