using AmberCrate.SampleCatalogue;

namespace AmberCrate.Engine.Tests.Catalogues;

public sealed class RelevanceTests
{
    [Fact]
    public void What_is_meant_is_found_first()
    {
        using var folder = new TemporaryFolder();
        var forge = new CardForge(2000, releases: 2);
        using var stage = new SearchStage(forge.MakeAll(), folder[""]);
        var scores = RelevanceSet.Of(forge)
            .GroupBy(query => query.Group)
            .ToDictionary(group => group.Key, group => RelevanceSet.MeanReciprocalRank([.. group], stage.Search));
        foreach (var name in new[] { "exact", "partial", "split", "accent" })
            scores[name].ShouldBeGreaterThanOrEqualTo(0.95, name);
        scores["typo"].ShouldBeGreaterThanOrEqualTo(0.9);
        scores["two typos"].ShouldBeGreaterThanOrEqualTo(0.8);
        scores["purpose"].ShouldBeGreaterThanOrEqualTo(0.8);
    }
}
