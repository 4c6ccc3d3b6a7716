using AmberCrate.Core.Catalogues;
using CsCheck;

namespace AmberCrate.Core.Tests.Catalogues;

public sealed class LayerPlanTests
{
    private const int Apps = 2000;

    [Theory]
    [InlineData(new int[0], 1, null, 0)]
    [InlineData(new[] { 2000 }, 1, 1, 1)]
    [InlineData(new[] { 2000 }, 250, 1, 250)]
    [InlineData(new[] { 2000 }, 251, null, 0)]
    [InlineData(new[] { 2000, 100 }, 10, 2, 10)]
    [InlineData(new[] { 2000, 100 }, 50, 2, 50)]
    [InlineData(new[] { 2000, 100 }, 51, 1, 151)]
    [InlineData(new[] { 2000, 60, 5 }, 4, 2, 9)]
    [InlineData(new[] { 2000, 9, 5 }, 4, 1, 18)]
    [InlineData(new[] { 2000, 200 }, 60, null, 0)]
    public void A_change_is_laid_over_what_is_there(int[] layers, int changed, int? kept, int ids)
    {
        var next = 0;
        var told = layers.Select((size, at) => (IReadOnlyCollection<string>)Ids(at == 0 ? 0 : next += 300, size)).ToList();
        var plan = LayerPlan.Create(told, Ids(1700, changed), Apps);
        (plan?.KeptLayers, plan?.Ids.Count ?? 0).ShouldBe((kept, ids));
    }

    [Fact]
    public void Layers_stay_few_and_above_an_eighth_of_the_catalogue_there_are_none() =>
        Gen.Int[1, 60].Array[1, 80].Sample(changes =>
    {
        List<IReadOnlyCollection<string>> layers = [Ids(0, Apps)];
        var from = 0;
        foreach (var change in changes)
        {
            var changed = Ids(from += 17, change);
            if (LayerPlan.Create(layers, changed, Apps) is { } plan) layers = [.. layers.Take(plan.KeptLayers), [.. plan.Ids]];
            else layers = [Ids(0, Apps)];
            layers.Skip(1).Sum(layer => layer.Count).ShouldBeLessThanOrEqualTo(Apps / 8);
            layers.Count.ShouldBeLessThanOrEqualTo(2 + (int)Math.Log2(Apps / 8));
            if (layers.Count > 1) changed.Except(layers[^1]).ShouldBeEmpty();
        }
    });

    private static List<string> Ids(int from, int count) => [.. Enumerable.Range(from, count).Select(number => $"app-{number}")];
}
