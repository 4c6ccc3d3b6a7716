using System.Text;
using AmberCrate.Core.Catalogues;
using AmberCrate.Core.Problems;
using AmberCrate.Core.Toml;
using AmberCrate.Core.Values;

namespace AmberCrate.Core.Tests.Catalogues;

/// <summary>What nobody writes by mistake is a fault of its line or file, and no mistake of this program.</summary>
public sealed class HostileLineTests
{
    private const string Card = """
        {"id":"lamp","type":"console-application","name":"La#mp","summary":"x","releases":[{"version":"1","date":"2026-01-01"}]}
        """;

    [Theory]
    [InlineData(new byte[] { 0xff, 0xfe }, "expected text in UTF-8")]
    [InlineData(new byte[] { 0xed, 0xa0, 0x80 }, "expected text in UTF-8")]
    [InlineData(new byte[] { 0xc0, 0x80 }, "expected text in UTF-8")]
    public void Bytes_that_are_no_text_are_refused(byte[] bytes, string says)
    {
        var line = Encoding.UTF8.GetBytes(Card);
        var at = line.AsSpan().IndexOf((byte)'#');
        Should.Throw<MalformedException>(() => CatalogueLine.Read([.. line[..at], .. bytes, .. line[(at + 1)..]])).Message
            .ShouldContain(says);
    }

    [Theory]
    [InlineData("\\ud800", false)]
    [InlineData("\\udc00", false)]
    [InlineData("\\ud83d\\ud83d", false)]
    [InlineData("\\ud83d\\ude00", true)]
    [InlineData("\\\\ud800", true)]
    [InlineData("\\u00e9", true)]
    [InlineData("\ufffd", true)]
    public void Half_a_character_is_refused(string text, bool isWhole)
    {
        var line = Encoding.UTF8.GetBytes(Card.Replace("#", text, StringComparison.Ordinal));
        var fault = Should.Throw<MalformedException>(() => CatalogueLine.Read(line));
        fault.Message.Contains("half", StringComparison.Ordinal).ShouldBe(!isWhole, fault.Message);
    }

    [Theory]
    [InlineData('[', ']')]
    [InlineData('{', '}')]
    public void Depth_without_end_is_a_fault_of_the_file(char opens, char closes)
    {
        var faults = new List<FormatFault>();
        TomlText.Read($"a = {new string(opens, 100_000)}{new string(closes, 100_000)}", "a.toml", faults).ShouldBeNull();
        faults[0].ToString().ShouldStartWith("a.toml:1: not valid TOML");
    }
}
