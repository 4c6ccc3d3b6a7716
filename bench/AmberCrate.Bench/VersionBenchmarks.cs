using AmberCrate.Core.Versions;
using BenchmarkDotNet.Attributes;

namespace AmberCrate.Bench;

/// <summary>Sorting versions, beside sorting the same texts by their bytes, which is the least that any order costs.</summary>
[MemoryDiagnoser]
public class VersionBenchmarks
{
    private string[] _texts = [];
    private AppVersion[] _versions = [];

    [GlobalSetup]
    public void Prepare()
    {
        var random = new Random(1);
        string[] endings = ["", "", "", "-rc1", "-beta.2", "~dev", "-3", "a"];
        _texts = [.. Enumerable.Range(0, 10_000)
            .Select(_ => $"{random.Next(20)}.{random.Next(40)}.{random.Next(200)}{endings[random.Next(endings.Length)]}")];
        _versions = [.. _texts.Select(AppVersion.Parse)];
    }

    [Benchmark(Baseline = true)]
    public string[] SortTexts() => [.. _texts.Order(StringComparer.Ordinal)];

    [Benchmark]
    public AppVersion[] SortVersions() => [.. _versions.Order()];

    [Benchmark]
    public int ParseVersions() => _texts.Count(text => AppVersion.TryParse(text, out _));
}
