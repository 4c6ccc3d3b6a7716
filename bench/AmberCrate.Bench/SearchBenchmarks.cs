using AmberCrate.Core.Cards;
using AmberCrate.Core.Searching;
using BenchmarkDotNet.Attributes;

namespace AmberCrate.Bench;

/// <summary>Ranking four hundred candidates, as many as a search takes from the database.</summary>
[MemoryDiagnoser]
public class SearchBenchmarks
{
    private SearchEntry[] _entries = [];
    private SearchQuery _query = SearchQuery.Parse(["paint cloth"]);

    [GlobalSetup]
    public void Prepare()
    {
        string[] words = ["paint", "cloth", "cue", "light", "sound", "rope", "bar", "ledger", "desk", "plan"];
        _entries = [.. Enumerable.Range(0, 400).Select(number => new SearchEntry
        {
            Kind = AppKind.DesktopApp, Reviewed = number % 2 == 0, Id = $"{words[number % 10]} {words[number / 10 % 10]}",
            Name = $"{words[number % 10]} {words[number / 10 % 10]}",
            Keywords = "cloth gauze", Categories = "graphics drawing", Developer = "battenworks",
            Summary = "paint the cloth to scale",
        })];
        _query = SearchQuery.Parse(["paint cloth"]);
    }

    [Benchmark]
    public int RankCandidates() => _entries.Count(entry => SearchRanking.Judge(_query, entry) is not null);
}
