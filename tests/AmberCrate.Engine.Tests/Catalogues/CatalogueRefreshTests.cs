using System.Globalization;
using AmberCrate.Core.Catalogues;
using AmberCrate.Core.Problems;
using AmberCrate.Core.Searching;
using AmberCrate.Core.Values;
using AmberCrate.Engine.Catalogues;
using AmberCrate.Engine.Fetching;
using AmberCrate.Engine.Indexing;
using AmberCrate.Engine.Layout;
using AmberCrate.Engine.Publishing;
using AmberCrate.Engine.Storage;
using AmberCrate.Playhouse;

namespace AmberCrate.Engine.Tests.Catalogues;

public sealed class CatalogueRefreshTests : IAsyncLifetime
{
    private const int Apps = 300;
    private static readonly CatalogueName Guild = CatalogueName.Parse("guild");
    private readonly TemporaryFolder _folder = new();
    private readonly HttpSource _network = new(TimeSpan.FromSeconds(3));
    private StaticServer _server = null!;
    private CatalogueCache _cache = null!;
    private RegisteredCatalogue _catalogue = null!;

    public async ValueTask InitializeAsync()
    {
        Directory.CreateDirectory(_folder["cards"]);
        for (var number = 0; number < Apps; number++) WriteCard(number, "1.0");
        await PublishAsync("site");
        _server = await StaticServer.StartAsync(_folder["site"]);
        _cache = CatalogueCache.Open(MachineLayout.Under(_folder["root"]), create: true);
        _catalogue = new RegisteredCatalogue(Guild, _server.Address.ToString()) { Trust = CatalogueTrust.NotSigned };
    }

    public async ValueTask DisposeAsync()
    {
        await _server.DisposeAsync();
        _cache.Dispose();
        _network.Dispose();
        _folder.Dispose();
    }

    [Fact]
    public async Task Only_what_changed_is_fetched()
    {
        var first = await RefreshAsync();
        (first.PartsRead, first.State!.Apps).ShouldBe((2, Apps));
        _server.Requests.Clear();
        (await RefreshAsync()).Changed.ShouldBeFalse();
        _server.Requests.ShouldHaveSingleItem().ShouldBe(("catalogue.json", 304));

        WriteCard(7, "2.0");
        await PublishAsync("site");
        _server.Requests.Clear();
        (await RefreshAsync()).PartsRead.ShouldBe(1);
        _server.Requests.Count.ShouldBe(2);
        _cache.Find(AppId.Parse("app-7"), [Guild])[0].Card.Releases[0].Version.Text.ShouldBe("2.0");
        _cache.Search(IndexQuery.For(SearchQuery.Parse(["app 7"]), [Guild])).Shown[0].Id.Text.ShouldBe("app-7");
    }

    [Fact]
    public async Task An_app_that_is_gone_is_gone_from_the_search_too()
    {
        await RefreshAsync();
        _cache.Search(IndexQuery.For(SearchQuery.Parse(["nr299 of many"]), [Guild])).Shown.ShouldHaveSingleItem();
        File.Delete(_folder["cards", "app-299.appcard.toml"]);
        await PublishAsync("site");
        (await RefreshAsync()).State!.Apps.ShouldBe(Apps - 1);
        _cache.Find(AppId.Parse("app-299"), [Guild]).ShouldBeEmpty();
        _cache.Search(IndexQuery.For(SearchQuery.Parse(["nr299 of many"]), [Guild])).Shown.ShouldBeEmpty();
    }

    [Theory]
    [InlineData("404", ProblemCode.Unreachable)]
    [InlineData("500", ProblemCode.Unreachable)]
    [InlineData("cut", ProblemCode.Unreachable)]
    [InlineData("stall", ProblemCode.Unreachable)]
    [InlineData("other", ProblemCode.NotVerified)]
    public async Task A_part_that_does_not_come_whole_leaves_the_old_state(string fault, ProblemCode code)
    {
        await RefreshAsync();
        for (var number = 0; number < Apps; number++) WriteCard(number, "2.0");
        await PublishAsync("site");
        var entry = CatalogueDocument.Read(await File.ReadAllBytesAsync(_folder["site", CatalogueDocument.FileName]));
        var last = Path.GetFileName(entry.Parts[^1].Path);
        _server.Faults[last] = fault switch
        {
            "cut" => new ServerFault.CutShort(),
            "stall" => new ServerFault.Stall(),
            "other" => new ServerFault.OtherBytes(),
            _ => new ServerFault.Status(int.Parse(fault)),
        };
        var result = await RefreshAsync();
        result.Problem.ShouldNotBeNull().Code.ShouldBe(code);
        result.State!.Apps.ShouldBe(Apps);
        for (var number = 0; number < Apps; number++)
            _cache.Find(AppId.Parse($"app-{number}"), [Guild])[0].Card.Releases[0].Version.Text.ShouldBe("1.0");

        _server.Faults.Clear();
        (await RefreshAsync()).Problem.ShouldBeNull();
        _cache.Find(AppId.Parse("app-7"), [Guild])[0].Card.Releases[0].Version.Text.ShouldBe("2.0");
    }

    [Fact]
    public async Task The_same_cards_are_published_to_the_same_bytes()
    {
        await PublishAsync("again");
        _folder.Tree("again").ShouldBe(_folder.Tree("site"));
        foreach (var file in _folder.Tree("site").Where(file => File.Exists(_folder["site", file])))
            File.ReadAllBytes(_folder["again", file]).ShouldBe(File.ReadAllBytes(_folder["site", file]));
    }

    [Fact]
    public async Task Another_version_of_the_program_renews_its_own_purposes_though_nothing_has_changed()
    {
        const string own = "SELECT group_concat(asked) FROM purposes WHERE catalogue = 0";
        await RefreshAsync();
        var before = Cached(database => database.Query(own, row => row.Text(0))[0]);
        Cached(database => { database.Run("UPDATE purposes SET asked = 'of before' WHERE catalogue = 0"); return ""; });
        (await RefreshAsync()).Changed.ShouldBeFalse();
        Cached(database => database.Query(own, row => row.Text(0))[0]).ShouldBe(before);
    }

    private string Cached(Func<Database, string> ask)
    {
        _cache.Dispose();
        var layout = MachineLayout.Under(_folder["root"]);
        string answer;
        using (var database = Database.Open(layout.CataloguesFile)) answer = ask(database);
        _cache = CatalogueCache.Open(layout, create: true);
        return answer;
    }

    [Fact]
    public async Task A_cache_that_is_damaged_or_newer_is_made_anew()
    {
        await RefreshAsync();
        _cache.Dispose();
        var layout = MachineLayout.Under(_folder["root"]);
        foreach (var file in Directory.EnumerateFiles(layout.CacheFolder)) File.WriteAllText(file, new string('x', 10_000));
        _cache = CatalogueCache.Open(layout, create: true);
        _cache.WasRebuilt.ShouldBeTrue();
        _cache.StateOf(_catalogue).ShouldBeNull();
        (await RefreshAsync()).State!.Apps.ShouldBe(Apps);

        _cache.Dispose();
        using (var database = Database.Open(layout.CataloguesFile)) database.Run("PRAGMA user_version=99");
        _cache = CatalogueCache.Open(layout, create: true);
        _cache.WasRebuilt.ShouldBeTrue();
    }

    [Theory]
    [InlineData("2026-11-23T21:56:48.250Z", "2026-11-23T21:56:48.2500000+00:00")]
    [InlineData("0001-01-01T00:00:00.000Z", "0001-01-01T00:00:00.0000000+00:00")]
    [InlineData("2026-02-30T00:00:00.000Z", null)]
    [InlineData("yesterday", null)]
    [InlineData("", null)]
    public async Task A_time_that_is_none_is_taken_for_long_ago(string text, string? time)
    {
        await RefreshAsync();
        _cache.Dispose();
        var layout = MachineLayout.Under(_folder["root"]);
        using (var database = Database.Open(layout.CataloguesFile)) database.Run("UPDATE catalogues SET refreshed = $1", text);
        _cache = CatalogueCache.Open(layout, create: true);
        _cache.StateOf(_catalogue)!.Refreshed.ShouldBe(
            time is null ? DateTimeOffset.UnixEpoch : DateTimeOffset.Parse(time, CultureInfo.InvariantCulture));
    }

    private async Task<RefreshResult> RefreshAsync() =>
        (await new CatalogueRefresh(
            _cache, new CatalogueSources(new SchemeSource(new FileSource(), _network)), null, _folder["incoming"],
            TimeProvider.System).RunAsync([_catalogue], null, default)).Single();

    private void WriteCard(int number, string version) => File.WriteAllText(_folder["cards", $"app-{number}.appcard.toml"], $"""
        appcard = 1
        id = "app-{number}"
        type = "desktop-application"
        name = "App {number}"
        summary = "nr{number} of many"
        [[releases]]
        version = "{version}"
        date = 2026-01-01
        [[releases.artifacts]]
        platform = "any-linux-any"
        location = "files/a"
        format = "executable"
        sha256 = "{new string('0', 64)}"
        download_size = 1
        """);

    private Task PublishAsync(string folder) => CataloguePublisher.PublishAsync(
        new BuildRequest(_folder["cards"], _folder[folder], WithArtifacts: false, IsFull: false), null, default, default);
}
