using AmberCrate.Core.CardFiles;
using AmberCrate.Core.Cards;
using AmberCrate.Core.Catalogues;
using AmberCrate.Core.Searching;
using AmberCrate.Core.Values;
using AmberCrate.Engine.Catalogues;
using AmberCrate.Engine.Fetching;
using AmberCrate.Engine.Indexing;
using AmberCrate.Engine.Layout;
using AmberCrate.Engine.Publishing;
using AmberCrate.Engine.Storage;
using AmberCrate.SampleCatalogue;

namespace AmberCrate.Engine.Tests.Catalogues;

public sealed class LayeredCatalogueTests : IDisposable
{
    private const int Apps = 600;
    private static readonly CatalogueName Guild = CatalogueName.Parse("guild");
    private readonly TemporaryFolder _folder = new();
    private readonly HttpSource _network = new(TimeSpan.FromSeconds(30));
    private readonly CardForge _forge = new(Apps, releases: 2);
    private readonly SortedDictionary<string, AppCard> _cards = new(StringComparer.Ordinal);
    private readonly CatalogueCache _cache;

    public LayeredCatalogueTests()
    {
        _cache = Open("root");
        for (var number = 0; number < Apps; number++) Put(_forge.Make(number));
    }

    public void Dispose()
    {
        _cache.Dispose();
        _network.Dispose();
        _folder.Dispose();
    }

    [Fact]
    public async Task Whatever_changes_the_cache_has_the_cards_that_were_published_last()
    {
        var random = new Random(5);
        var layers = new HashSet<int>();
        var next = Apps;
        for (var round = 0; round < 30; round++)
        {
            for (var change = random.Next(12); change >= 0; change--)
            {
                var victim = _cards.Keys.ElementAt(random.Next(_cards.Count));
                if (random.Next(3) == 0) _cards.Remove(victim);
                else if (random.Next(3) == 0) Put(_forge.Make(next++));
                else Put(_cards[victim] with
                {
                    Summary = $"Changed in round {round}",
                    Review = new Review((ReviewState)random.Next(3)),
                });
            }

            layers.Add(Publish().Parts[^1].Layer);
            if (random.Next(3) > 0) await RefreshAsync(_cache);
        }

        layers.Count.ShouldBeGreaterThan(2, "changes lie in several layers, and are published full now and then");
        await RefreshAsync(_cache);
        ShouldHaveTheCards(_cache);
        ItsIndexesShouldBeWhole("root");
        using var anew = Open("anew");
        await RefreshAsync(anew);
        ShouldHaveTheCards(anew);
        ItsIndexesShouldBeWhole("anew");
    }

    [Fact]
    public async Task A_small_change_is_a_small_part_and_a_card_that_changes_back_is_as_before()
    {
        Publish();
        await RefreshAsync(_cache);
        var (id, before) = _cards.First();
        Put(before with { Summary = "Zebra crossing" });
        Publish().Parts[^1].ShouldSatisfyAllConditions(part => part.Layer.ShouldBe(1), part => part.Lines.ShouldBe(1));
        (await RefreshAsync(_cache)).PartsRead.ShouldBe(1);
        _cache.Search(IndexQuery.For(SearchQuery.Parse(["zebra"]), [Guild])).Shown.Select(result => result.Id.Text)
            .ShouldBe([id]);
        Put(before);
        Publish();
        (await RefreshAsync(_cache)).PartsRead.ShouldBe(1);
        _cache.Search(IndexQuery.For(SearchQuery.Parse(["zebra"]), [Guild])).Total.ShouldBe(0);
        ShouldHaveTheCards(_cache);
    }

    [Fact]
    public async Task A_layer_that_is_taken_away_uncovers_what_was_below()
    {
        Publish();
        await RefreshAsync(_cache);
        var first = File.ReadAllBytes(_folder["site", "catalogue.json"]);
        var parts = Directory.GetFiles(_folder["site", "parts"]).ToDictionary(file => file, File.ReadAllBytes);
        var published = _cards.ToDictionary();
        foreach (var id in _cards.Keys.Take(7).ToList()) Put(_cards[id] with { Summary = "Covered" });
        _cards.Remove(_cards.Keys.Last());
        Publish();
        await RefreshAsync(_cache);
        ShouldHaveTheCards(_cache);

        // The maintainer puts an older tree back: no part of it is new to this machine.
        foreach (var (file, bytes) in parts) File.WriteAllBytes(file, bytes);
        File.WriteAllBytes(_folder["site", "catalogue.json"], first);
        foreach (var (id, card) in published) _cards[id] = card;
        var back = await RefreshAsync(_cache);
        (back.PartsRead, back.Changed).ShouldBe((0, true));
        ShouldHaveTheCards(_cache);
    }

    [Fact]
    public void Publishing_the_same_again_changes_no_byte_and_a_damaged_tree_is_published_afresh()
    {
        Publish();
        Put(_cards.First().Value with { Summary = "Changed" });
        var document = Publish();
        var before = Directory.GetFiles(_folder["site"], "*", SearchOption.AllDirectories)
            .ToDictionary(file => file, File.GetLastWriteTimeUtc);
        Publish().Write().ShouldBe(document.Write());
        foreach (var (file, time) in before.Where(pair => !pair.Key.EndsWith("catalogue.json", StringComparison.Ordinal)))
            File.GetLastWriteTimeUtc(file).ShouldBe(time);
        File.WriteAllText(Directory.GetFiles(_folder["site", "parts"])[0], "rubbish");
        Publish().Parts.ShouldAllBe(part => part.Layer == 0);
    }

    [Fact]
    public async Task Places_run_out_for_nobody()
    {
        _cards.Clear();
        for (var number = 0; number < 5000; number++)
            Put(_forge.Make(0) with { Id = AppId.Parse($"same-beginning-{number}"), Name = "Same beginning" });
        Publish();
        (await RefreshAsync(_cache)).State!.Apps.ShouldBe(5000);
        _cache.Search(IndexQuery.For(SearchQuery.Parse(["same"]), [Guild])).Total.ShouldBe(5000);
    }

    private void ShouldHaveTheCards(CatalogueCache cache)
    {
        cache.Ids(Guild).Order(StringComparer.Ordinal).ShouldBe(_cards.Keys);
        foreach (var card in _cards.Values)
        {
            CardJson.Write(cache.Find(card.Id, [Guild]).ShouldHaveSingleItem().Card).ShouldBe(CardJson.Write(card));
            cache.Search(IndexQuery.For(SearchQuery.Parse([card.Name]), [Guild])).Shown[0].Summary.ShouldBe(card.Summary);
        }
    }

    /// <summary>Has SQLite compare each index with the apps that it is over.</summary>
    private void ItsIndexesShouldBeWhole(string root)
    {
        using var database = Database.Open(MachineLayout.Under(_folder[root]).CataloguesFile);
        foreach (var (index, _) in CatalogueTables.Indexes)
            Should.NotThrow(() => database.Run($"INSERT INTO {index}({index}, rank) VALUES('integrity-check', 1)"), index);
    }

    private void Put(AppCard card) => _cards[card.Id.Text] = card;

    private CatalogueDocument Publish() =>
        CataloguePublisher.Publish(
            new CatalogueContent(new CatalogueSettings("Guild"), _cards.Values), _folder["site"], full: false, null, "targets",
            default).Document;

    private CatalogueCache Open(string root) => CatalogueCache.Open(MachineLayout.Under(_folder[root]), create: true);

    private async Task<RefreshResult> RefreshAsync(CatalogueCache cache)
    {
        var result = (await new CatalogueRefresh(
            cache, new CatalogueSources(new SchemeSource(new FileSource(), _network)), null, _folder["incoming"],
            TimeProvider.System).RunAsync(
                [new RegisteredCatalogue(Guild, _folder["site"]) { Trust = CatalogueTrust.NotSigned }], null, default)).Single();
        result.Problem.ShouldBeNull();
        return result;
    }
}
