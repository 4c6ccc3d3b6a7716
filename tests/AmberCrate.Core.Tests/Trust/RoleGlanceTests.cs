using System.Text;
using AmberCrate.Core.Trust;
using AmberCrate.Core.Values;

namespace AmberCrate.Core.Tests.Trust;

public sealed class RoleGlanceTests
{
    [Theory]
    [InlineData("3 2026-12-01 - ",
        """{"signatures":[{"keyid":"a"}],"signed":{"expires":"2026-12-01T00:00:00Z","version":3}}""")]
    [InlineData("4 9999-12-31 2026-11-01 ",
        """{"signed":{"issued":"2026-11-01T00:00:00Z","meta":{"version":9,"expires":"1999-01-01T00:00:00Z"},"version":4}}""")]
    [InlineData("5 9999-12-31 - b a",
        """{"signed":{"delegations":{"x":{"name":"no"},"roles":[{"name":"b","x":{"name":"c"}},{"name":"a"}]},"version":5}}""")]
    [InlineData("6 9999-12-31 - a",
        """{"signed":{"delegations":{"roles":[{"paths":[]},{"name":"a"}]},"issued":{"expires":"x"},"version":6}}""")]
    [InlineData("7 9999-12-31 - ", """{"signed":{"delegations":[{"name":"no"}],"version":7}}""")]
    public void A_glance_tells_what_a_role_says_of_itself(string expected, string text)
    {
        var glance = RoleSummary.Parse(Encoding.UTF8.GetBytes(text));
        var issued = glance.Issued is { } at ? $"{at:yyyy-MM-dd}" : "-";
        $"{glance.Version} {glance.Expires:yyyy-MM-dd} {issued} {string.Join(' ', glance.Delegated)}".ShouldBe(expected);
    }

    [Theory]
    [InlineData("")]
    [InlineData("[]")]
    [InlineData("{")]
    [InlineData("""{"signed":[]}""")]
    [InlineData("""{"other":{}}""")]
    [InlineData("""{"signed":{"version":"three"}}""")]
    [InlineData("""{"signed":{"version":1.5}}""")]
    [InlineData("""{"signed":{"delegations":{"roles":[{"name":{}}]}}}""")]
    public void What_is_no_metadata_is_said_to_be_none(string text) =>
        Should.Throw<MalformedException>(() => RoleSummary.Parse(Encoding.UTF8.GetBytes(text)));
}
