using System.Security.Cryptography;
using System.Text;
using AmberCrate.Core.CardFiles;
using AmberCrate.Core.Catalogues;
using AmberCrate.Core.Problems;
using AmberCrate.Core.Values;
using AmberCrate.Engine.Catalogues;
using AmberCrate.Engine.Fetching;
using AmberCrate.Engine.Layout;
using AmberCrate.SampleCatalogue;

namespace AmberCrate.Engine.Tests.Catalogues;

public sealed class HostileCatalogueTests : IDisposable
{
    private static readonly CatalogueName Guild = CatalogueName.Parse("guild");
    private static readonly string[] Good =
        [.. Enumerable.Range(0, 5).Select(number => Encoding.UTF8.GetString(CardJson.Write(new CardForge(5, 1).Make(number))))];
    private readonly TemporaryFolder _folder = new();
    private readonly CatalogueCache _cache;

    public HostileCatalogueTests() => _cache = CatalogueCache.Open(MachineLayout.Under(_folder["root"]), create: true);

    public void Dispose()
    {
        _cache.Dispose();
        _folder.Dispose();
    }

    public static TheoryData<string, string[][], int, string> Trees() => new()
    {
        { "one bad line among good ones", [[Good[0], Good[1], "{\"id\":\"x\"", Good[2]]], 4, "line 3: " },
        { "a card with a key that is unknown",
        [
            [Good[0].Replace("\"id\"", "\"hint\":1,\"id\"")],
        ], 1, "line 1: hint: unknown key" },
        { "an empty line", [[Good[0], ""]], 2, "line 2: " },
        { "an app twice in a part", [[Good[0], Good[0]]], 2, "which another line has too" },
        { "an app twice in two parts", [[Good[0], Good[1]], [Good[1]]], 3, "which another line has too" },
        { "an app twice in a later layer", [[Good[0], Good[1]], ["layer", Good[1], Good[1]]], 2, "is in one layer twice" },
        { "an app that is gone from the first layer",
        [
            [Good[0], "{\"gone\":\"scrim\"}"],
        ], 1, "gone from a layer that has nothing below" },
        { "fewer apps than announced", [[Good[0], Good[1]]], 3, "3 apps were announced, 2 are there" },
        { "more apps than announced", [[Good[0], Good[1]]], 1, "1 apps were announced, 2 are there" },
        { "a text of ten million letters",
        [
            [Good[0].Replace("\"summary\":\"", "\"summary\":\"" + new string('x', 10_000_000))],
        ], 1, "summary: expected at most 200 characters" },
    };

    [Theory]
    [MemberData(nameof(Trees), DisableDiscoveryEnumeration = true)]
    public async Task A_faulty_tree_is_refused_as_a_whole(string what, string[][] parts, int apps, string says)
    {
        Write([Good[4]], 1);
        (await RefreshAsync()).Problem.ShouldBeNull();
        var problem = (await RefreshAfter(() => Write(parts, apps))).Problem.ShouldNotBeNull(what);
        problem.Code.ShouldBe(ProblemCode.NotVerified);
        problem.Why.ShouldContain(says);
        _cache.Ids(Guild).ShouldBe([AppIdOf(Good[4])]);

        (await RefreshAfter(() => Write([Good[0], Good[4]], 2))).Problem.ShouldBeNull();
        _cache.Ids(Guild)
            .Order(StringComparer.Ordinal)
            .ShouldBe(new[] { AppIdOf(Good[0]), AppIdOf(Good[4]) }.Order(StringComparer.Ordinal));
    }

    [Theory]
    [InlineData(-1)]
    [InlineData(1)]
    [InlineData(-900)]
    public async Task A_part_that_unpacks_to_another_size_than_announced_is_refused(int more)
    {
        Write([Good[0]], 1, contentSizeOff: more);
        (await RefreshAsync()).Problem.ShouldNotBeNull().Why.ShouldContain("is not of");
        _cache.Ids(Guild).ShouldBeEmpty();
    }

    [Fact]
    public async Task A_part_that_announces_two_billion_lines_costs_nothing()
    {
        Write([Good[0]], 1);
        var entry = _folder["site", "catalogue.json"];
        File.WriteAllText(
            entry, File.ReadAllText(entry).Replace("\"lines\": 1", "\"lines\": 2147483647", StringComparison.Ordinal));
        (await RefreshAsync()).Problem.ShouldNotBeNull().Why.ShouldContain("2147483647 lines were announced, 1 are there");
    }

    private static string AppIdOf(string line) => CardJson.Read(Encoding.UTF8.GetBytes(line)).Id.Text;

    private Task<RefreshResult> RefreshAfter(Action change)
    {
        change();
        return RefreshAsync();
    }

    private async Task<RefreshResult> RefreshAsync()
    {
        using var network = new HttpSource(TimeSpan.FromSeconds(30));
        return (await new CatalogueRefresh(
            _cache, new CatalogueSources(new SchemeSource(new FileSource(), network)), null, _folder["incoming"],
            TimeProvider.System).RunAsync(
                [new RegisteredCatalogue(Guild, _folder["site"]) { Trust = CatalogueTrust.NotSigned }], null, default)).Single();
    }

    private void Write(string[] lines, int apps, int contentSizeOff = 0) => Write([lines], apps, contentSizeOff);

    /// <summary>Writes a tree by hand, as a careless or an evil maintainer might; digests are right.</summary>
    private void Write(string[][] parts, int apps, int contentSizeOff = 0)
    {
        Directory.CreateDirectory(_folder["site", "parts"]);
        using var compressor = new ZstdSharp.Compressor(3);
        var layer = 0;
        var listings = new List<PartListing>();
        foreach (var part in parts)
        {
            if (part[0] == "layer") layer++;
            var lines = part.Where(line => line != "layer").ToList();
            var content = Encoding.UTF8.GetBytes(string.Concat(lines.Select(line => line + "\n")));
            var packed = compressor.Wrap(content).ToArray();
            var listing = new PartListing(
                Sha256Digest.FromBytes(SHA256.HashData(packed)), packed.Length, content.Length + contentSizeOff, lines.Count,
                layer);
            File.WriteAllBytes(_folder["site", listing.Path], packed);
            listings.Add(listing);
        }

        File.WriteAllBytes(
            _folder["site", "catalogue.json"], new CatalogueDocument(new CatalogueSettings("Guild"), apps, listings).Write());
    }
}
