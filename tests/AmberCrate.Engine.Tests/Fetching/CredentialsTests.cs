using AmberCrate.Core.Problems;
using AmberCrate.Core.Values;
using AmberCrate.Engine.Fetching;

namespace AmberCrate.Engine.Tests.Fetching;

public sealed class CredentialsTests : IDisposable
{
    private const string Secret = "swordfish";
    private readonly TemporaryFolder _folder = new();
    private readonly Dictionary<string, string> _variables = [];

    public void Dispose() => _folder.Dispose();

    [Theory]
    [InlineData("https://guild.example/cards/", "https://guild.example/cards/catalogue.json", true)]
    [InlineData("https://guild.example/cards/", "https://GUILD.example:443/other/file", true)]
    [InlineData("https://guild.example/cards/", "https://guild.example:8443/cards/", false)]
    [InlineData("https://guild.example/cards/", "http://guild.example/cards/", false)]
    [InlineData("https://guild.example/cards/", "https://files.guild.example/", false)]
    [InlineData("https://guild.example/cards/", "https://guild.example.evil.example/", false)]
    [InlineData("http://127.0.0.1:8080/", "http://127.0.0.1:8080/a", true)]
    [InlineData("http://127.0.0.1:8080/", "http://127.0.0.1:8081/a", false)]
    public void They_are_for_the_host_of_their_catalogue_only(string location, string address, bool isSent)
    {
        _variables["ACRATE_TOKEN_GUILD"] = Secret;
        var credentials = Make();
        credentials.Admit(Guild, location);
        credentials.For(new Uri(address))?.ToString().ShouldBe(isSent ? $"Bearer {Secret}" : null);
        (credentials.For(new Uri(address)) is not null).ShouldBe(isSent);
    }

    [Fact]
    public void The_environment_goes_before_the_file_and_both_kinds_are_known()
    {
        WriteFile($"credentials = 1\n[guild]\nuser = \"stage\"\npassword = \"{Secret}\"\n[loft]\ntoken = \"other\"\n");
        var credentials = Make();
        credentials.Admit(Guild, "https://guild.example/");
        credentials.For(new Uri("https://guild.example/"))!.ToString()
            .ShouldBe("Basic " + Convert.ToBase64String(System.Text.Encoding.UTF8.GetBytes($"stage:{Secret}")));
        _variables["ACRATE_TOKEN_GUILD"] = "first";
        credentials = Make();
        credentials.Admit(Guild, "https://guild.example/");
        credentials.For(new Uri("https://guild.example/"))!.ToString().ShouldBe("Bearer first");
    }

    [Theory]
    [InlineData(UnixFileMode.GroupRead)]
    [InlineData(UnixFileMode.OtherRead)]
    [InlineData(UnixFileMode.OtherWrite)]
    public void A_file_that_others_may_read_is_not_used(UnixFileMode more)
    {
        WriteFile($"credentials = 1\n[guild]\ntoken = \"{Secret}\"\n");
        File.SetUnixFileMode(_folder["catalogue-access.toml"], File.GetUnixFileMode(_folder["catalogue-access.toml"]) | more);
        var refused = Should.Throw<ProblemException>(() => Make().Admit(Guild, "https://guild.example/")).Problem;
        (refused.Code, refused.Remedy.ToString()).ShouldBe(
            (ProblemCode.Refused, $"chmod 600 {_folder["catalogue-access.toml"]}"));
    }

    [Theory]
    [InlineData("credentials = 1\n[guild]\ntoken = \"swordfish\nx\"", ":3: expected TOML")]
    [InlineData("credentials = 1\n[guild]\ntoken = \"swordfish\"\nuser = \"swordfish\"",
        "guild: not as docs/formats/catalogue-access.md describes it")]
    [InlineData("credentials = 1\n[guild]\nuser = \"swordfish\"", "guild: not as docs/formats/catalogue-access.md describes it")]
    [InlineData("credentials = 1\n[guild]\ntoken = 7", "guild.token: not as docs/formats/catalogue-access.md describes it")]
    [InlineData("credentials = 1\n[guild]\ntoken = \"swordfish\"\ntokn = \"swordfish\"",
        "guild.tokn: not as docs/formats/catalogue-access.md describes it")]
    [InlineData("credentials = 1\n[guild]\ntoken = \"sword\\nfish\"", "guild: a token is one word")]
    [InlineData("[guild]\ntoken = \"swordfish\"", "credentials: not as docs/formats/catalogue-access.md describes it")]
    [InlineData("credentials = 2", "credentials: not as docs/formats/catalogue-access.md describes it")]
    public void Faults_of_the_file_are_named_without_a_secret(string text, string says)
    {
        WriteFile(text);
        var refused = Should.Throw<ProblemException>(() => Make().Admit(Guild, "https://guild.example/")).Problem;
        refused.Code.ShouldBe(ProblemCode.NotVerified);
        refused.Details.ShouldContain(detail => detail.ToString().Contains(says, StringComparison.Ordinal));
        (refused.What + refused.Why + string.Concat(refused.Details)).ShouldNotContain(Secret);
    }

    [Theory]
    [InlineData("http://guild.example/", ProblemCode.Refused, "TOKEN")]
    [InlineData("https://guild.example/", ProblemCode.BadCommandLine, "USER")]
    public void What_cannot_be_sent_safely_is_refused(string location, ProblemCode code, string variable)
    {
        _variables[$"ACRATE_{variable}_GUILD"] = Secret;
        var refused = Should.Throw<ProblemException>(() => Make().Admit(Guild, location)).Problem;
        refused.Code.ShouldBe(code);
        refused.ToString().ShouldNotContain(Secret);
    }

    private static CatalogueName Guild { get; } = CatalogueName.Parse("guild");

    private Credentials Make() => new(_folder["catalogue-access.toml"], name => _variables.GetValueOrDefault(name));

    private void WriteFile(string text)
    {
        File.WriteAllText(_folder["catalogue-access.toml"], text);
        File.SetUnixFileMode(_folder["catalogue-access.toml"], UnixFileMode.UserRead | UnixFileMode.UserWrite);
    }
}
