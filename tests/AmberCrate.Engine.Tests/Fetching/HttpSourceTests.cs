using AmberCrate.Core.Problems;
using AmberCrate.Core.Values;
using AmberCrate.Engine.Fetching;
using AmberCrate.Engine.Host;
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
        var refused = await Should.ThrowAsync<ServerAnswerException>(() => ReadAsync("file"));
        var problem = IoProblems.ToProblem(refused, "it cannot be downloaded");
        (problem.Code, problem.Remedy.ToString()).ShouldBe(
            (ProblemCode.Unreachable, "check the credentials of guild"));
    }

    [Theory]
    [InlineData("http://127.0.0.1:{port}/file")]
    [InlineData("http://localhost:{port}/file")]
    [InlineData("http://[::1]:{port}/file")]
    [InlineData("http://[::ffff:127.0.0.1]:{port}/file")]
    [InlineData("http://2130706433:{port}/file")]
    [InlineData("http://0.0.0.0:{port}/file")]
    [InlineData("http://169.254.169.254/file")]
    [InlineData("http://10.1.2.3/file")]
    [InlineData("http://172.31.0.1/file")]
    [InlineData("http://192.168.1.1/file")]
    [InlineData("http://100.64.0.1/file")]
    [InlineData("http://[fd00::1]/file")]
    [InlineData("http://[fe80::1]/file")]
    public async Task A_catalogue_on_the_internet_does_not_lead_inside(string address)
    {
        using var network = new HttpSource(TimeSpan.FromSeconds(5));
        var refused = await Should.ThrowAsync<ProblemException>(() =>
            network.OpenAsync(Request(address, "https://8.8.8.8/"), default));
        refused.Problem.Code.ShouldBe(ProblemCode.NotVerified);
        refused.Problem.Why.ShouldBe(
            "it is on this machine or inside a private network, and 8.8.8.8, which names it, does not");
        _here.Requests.ShouldBeEmpty();
    }

    [Theory]
    [InlineData("http://10.0.0.1/", false, false)]
    [InlineData("http://127.0.0.1/", false, true)]
    [InlineData("file:///srv/catalogue/", false, true)]
    [InlineData("https://8.8.8.8/", true, true)]
    public async Task A_catalogue_leads_as_far_in_as_it_lies_itself_unless_all_is_allowed(
        string catalogue, bool reachesAll, bool isRead)
    {
        using var network = new HttpSource(TimeSpan.FromSeconds(5), reachesAll: reachesAll);
        var fault = await Record.ExceptionAsync(async () =>
        {
            using var content = await network.OpenAsync(Request("http://127.0.0.1:{port}/file", catalogue), default);
        });
        (fault is null).ShouldBe(isRead);
        (fault is null or ProblemException).ShouldBeTrue();
    }

    private FetchRequest Request(string address, string catalogue) =>
        new(new Uri(address.Replace("{port}", $"{_here.Address.Port}", StringComparison.Ordinal)))
        {
            Catalogue =
            new Uri(catalogue)
        };

    private async Task<string> ReadAsync(string path)
    {
        var credentials = new Credentials(_folder["none"], name => name == "ACRATE_TOKEN_GUILD" ? "swordfish" : null);
        credentials.Admit(CatalogueName.Parse("guild"), _here.Address.ToString());
        using var network = new HttpSource(TimeSpan.FromSeconds(30), credentials: credentials);
        using var content = await network.OpenAsync(new FetchRequest(new Uri(_here.Address, path)), default);
        return await new StreamReader(content!.Stream).ReadToEndAsync();
    }
}
