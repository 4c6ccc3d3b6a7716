using AmberCrate.Core.Problems;
using AmberCrate.Core.Values;
using AmberCrate.Engine.Fetching;
using AmberCrate.Playhouse;

namespace AmberCrate.Engine.Tests.Fetching;

public sealed class HttpSourceTests : IAsyncLifetime
{
    private readonly TemporaryFolder _folder = new();
    private StaticServer _here = null!;
    private StaticServer _elsewhere = null!;

    public async ValueTask InitializeAsync()
    {
        File.WriteAllText(_folder["file"], "curtain");
        _here = await StaticServer.StartAsync(_folder.Path);
        _elsewhere = await StaticServer.StartAsync(_folder.Path);
    }

    public async ValueTask DisposeAsync()
    {
        await _here.DisposeAsync();
        await _elsewhere.DisposeAsync();
        _folder.Dispose();
    }

    [Fact]
    public async Task Credentials_do_not_follow_to_another_host()
    {
        _here.RequiredAuthorization = "Bearer swordfish";
        _here.Faults["moved"] = new ServerFault.Redirect(new Uri(_elsewhere.Address, "file").ToString());
        _here.Faults["inside"] = new ServerFault.Redirect("file");
        (await ReadAsync("file")).ShouldBe("curtain");
        (await ReadAsync("inside")).ShouldBe("curtain");
        (await ReadAsync("moved")).ShouldBe("curtain");
        _here.Authorizations.Distinct().ShouldBe(["Bearer swordfish"]);
        _elsewhere.Authorizations.ShouldBeEmpty();
    }

    [Theory]
    [InlineData("http://files.example/file", ProblemCode.NotVerified)]
    [InlineData("ftp://files.example/file", ProblemCode.NotVerified)]
    [InlineData("file:///etc/passwd", ProblemCode.NotVerified)]
    public async Task A_redirect_that_is_not_safe_is_not_followed(string to, ProblemCode code)
    {
        _here.Faults["moved"] = new ServerFault.Redirect(to);
        var refused = await Should.ThrowAsync<ProblemException>(() => ReadAsync("moved"));
        refused.Problem.Code.ShouldBe(code);
        refused.Problem.What.ShouldContain(to);
    }

    [Fact]
    public async Task A_circle_of_redirects_ends()
    {
        _here.Faults["moved"] = new ServerFault.Redirect("moved");
        (await Should.ThrowAsync<HttpRequestException>(() => ReadAsync("moved"))).Message.ShouldBe(
            "the server redirects more than 5 times");
    }

    [Fact]
    public async Task A_host_that_asks_for_credentials_is_told_from_one_that_is_away()
    {
        _here.RequiredAuthorization = "Bearer another";
        var refused = await Should.ThrowAsync<ProblemException>(() => ReadAsync("file"));
        (refused.Problem.Code, refused.Problem.Remedy.ToString()).ShouldBe(
            (ProblemCode.Unreachable, "check the credentials of guild"));
    }

    private async Task<string> ReadAsync(string path)
    {
        var credentials = new Credentials(_folder["none"], name => name == "ACRATE_TOKEN_GUILD" ? "swordfish" : null);
        credentials.Admit(CatalogueName.Parse("guild"), _here.Address.ToString());
        using var network = new HttpSource(TimeSpan.FromSeconds(30), credentials: credentials);
        using var content = await network.OpenAsync(new FetchRequest(new Uri(_here.Address, path)), default);
        return await new StreamReader(content!.Stream).ReadToEndAsync();
    }
}
