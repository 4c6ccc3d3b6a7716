using System.Text;
using System.Text.Json;
using AmberCrate.Core.Trust;
using AmberCrate.Core.Values;
using CsCheck;

namespace AmberCrate.Core.Tests.Trust;

public sealed class CanonicalJsonTests
{
    [Theory]
    [InlineData("{ \"b\" : 1, \"a\" : [ true, false, null ] }", "{\"a\":[true,false,null],\"b\":1}")]
    [InlineData("{\"A\":1,\"a\":2,\"_\":3}", "{\"A\":1,\"_\":3,\"a\":2}")]
    [InlineData("\"a\\nb \\\"c\\\" \\\\ \\u00e9\"", "\"a\nb \\\"c\\\" \\\\ é\"")]
    [InlineData("[-7,0,9007199254740993]", "[-7,0,9007199254740993]")]
    public void A_value_has_one_form(string text, string expected) => Of(text).ShouldBe(expected);

    [Theory]
    [InlineData("1.5")]
    [InlineData("1e3")]
    [InlineData("99999999999999999999")]
    [InlineData("{\"a\":[1.0]}")]
    public void What_is_no_whole_number_has_none(string text) => Should.Throw<MalformedException>(() => Of(text));

    [Theory]
    [InlineData("{\"a\":1,\"a\":2}")]
    [InlineData("{\"a\":1} x")]
    [InlineData("")]
    [InlineData("{\"a\":1,}")]
    public void What_can_be_read_in_two_ways_is_refused(string text) =>
        Should.Throw<MalformedException>(() => CanonicalJson.Read(Encoding.UTF8.GetBytes(text)));

    [Fact]
    public void Deep_nesting_is_refused() => Should.Throw<MalformedException>(
        () => CanonicalJson.Read(Encoding.UTF8.GetBytes(new string('[', 40) + new string(']', 40))));

    /// <summary>Neither the order of keys nor white space changes what is signed.</summary>
    [Fact]
    public void The_form_does_not_depend_on_how_it_is_written() => Check.Sample(
        Gen.Select(Gen.String[Gen.Char.AlphaNumeric, 1, 4], Gen.Int).Array[0, 8],
        pairs =>
        {
            var entries = pairs.DistinctBy(pair => pair.Item1)
                .Select(pair => $"\"{pair.Item1}\": {pair.Item2}").ToList();
            Of($"{{{string.Join(" , ", entries)}}}").ShouldBe(Of($"{{{string.Join(',', entries.AsEnumerable().Reverse())}}}"));
        });

    private static string Of(string text)
    {
        using var document = JsonDocument.Parse(text);
        return Encoding.UTF8.GetString(CanonicalJson.Write(document.RootElement));
    }
}
