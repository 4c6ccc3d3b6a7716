using AmberCrate.Cli.Tables;
using CsCheck;

namespace AmberCrate.Cli.Tests.Tables;

/// <summary>How text is broken into lines.</summary>
public sealed class WrappingTests
{
    private const string Signs = " a7-/舞\u0301.";

    [Theory]
    [InlineData("a short text", 20, "a short text")]
    [InlineData("two words", 5, "two|words")]
    [InlineData("it takes 772 KiB here", 14, "it takes|772 KiB here")]
    [InlineData("3 releases · 20 days", 12, "3 releases ·|20 days")]
    [InlineData("https://scrim-paint.example/a", 12, "https://|scrim-paint.|example/a")]
    [InlineData("x0123456789", 6, "x|012345|6789")]
    [InlineData("release20261231", 10, "release|20261231")]
    [InlineData("舞台照明の本", 4, "舞台|照明|の本")]
    [InlineData("cafe\u0301 cafe\u0301", 4, "cafe\u0301|cafe\u0301")]
    [InlineData("  indented text that goes on", 12, "  indented|text that|goes on")]
    public void Lines_end_between_words(string text, int width, string lines) =>
        string.Join('|', Wrapping.Lines(text, width, width, breaksWords: true)).ShouldBe(lines);

    [Fact]
    public void A_command_stays_whole_even_if_it_is_longer_than_the_line()
    {
        var command = Wrapping.KeepTogether("acrate install scrim-paint cue-ledger");
        Wrapping.Lines($"{command}, then look", 12, 12, breaksWords: false).Select(Wrapping.Printed)
            .ShouldBe(["acrate install scrim-paint cue-ledger,", "then look"]);
        Wrapping.Lines($"first {command}", 40, 40, breaksWords: false).Count.ShouldBe(2);
    }

    [Fact]
    public void Nothing_is_lost_and_no_line_is_too_long() =>
        Gen.Select(Gen.Int[0, Signs.Length - 1].Select(at => Signs[at]).Array[0, 60].Select(signs => new string(signs)),
            Gen.Int[4, 30], Gen.Int[4, 30])
            .Sample((text, first, rest) =>
            {
                var lines = Wrapping.Lines(text, first, rest, breaksWords: true);
                string.Concat(lines).Replace(" ", "").ShouldBe(text.Replace(" ", ""));
                foreach (var (line, at) in lines.Select((line, at) => (line.TrimEnd(' '), at)))
                    DisplayWidth.Measure(line).ShouldBeLessThanOrEqualTo(at == 0 ? first : rest);
            });
}
