using AmberCrate.Core.Cards;
using AmberCrate.Core.Planning;
using AmberCrate.Core.Plans;
using AmberCrate.Core.Problems;
using AmberCrate.Core.Tests.Cards;
using AmberCrate.Core.Values;
using AmberCrate.Core.Versions;

namespace AmberCrate.Core.Tests.Planning;

public sealed class PlanPickingTests
{
    [Theory]
    [InlineData("paint,light,tool", "", "base", "base light paint", "tool")]
    [InlineData("paint,light,tool", "", "paint", "paint", "base light tool")]
    [InlineData("paint,light,tool", "", "paint light", "base light paint", "tool")]
    [InlineData("studio", "", "paint", "base paint studio", "")]
    [InlineData("light", "base 1.0 guild", "light", "light", "")]
    [InlineData("paint", "base 1.0 guild", "base", "base paint", "")]
    [InlineData("foe", "paint 0.9 guild", "paint", "base foe paint", "")]
    [InlineData("tool", "", "", "", "tool")]
    public void What_cannot_be_there_without_the_rest_goes_with_it(
        string asked, string installed, string left, string gone, string stays)
    {
        var machine = installed.Length == 0 ? FixedOffers.Machine() : FixedOffers.Machine(installed);
        var plan = new Planner(machine, Offers).Install(asked.Split(',').Select(AppReference.Parse));
        var following = PlanPicking.Following(plan, left.Split(' ', StringSplitOptions.RemoveEmptyEntries));
        string.Join(' ', following.Order(StringComparer.Ordinal)).ShouldBe(gone);
        string.Join(' ', PlanPicking.Without(plan, following).Items.Select(item => item.Id).Order(StringComparer.Ordinal))
            .ShouldBe(stays);
    }

    [Fact]
    public void A_stated_digest_takes_the_place_of_the_card_s_and_is_for_what_is_fetched_only()
    {
        var plan = new Planner(FixedOffers.Machine(), Offers).Install([AppReference.Parse("tool")]);
        var digest = Sha256Digest.Parse(new string('a', 64));
        plan.WithAcceptedDigests(new Dictionary<string, Sha256Digest> { ["tool"] = digest }).Items[0].StatedSha256.ShouldBe(
            digest);
        plan.WithAcceptedDigests(new Dictionary<string, Sha256Digest>
        {
            ["tool"] = Sha256Digest.Parse(CardSamples.Digest),
        }).Items[0].StatedSha256.ShouldBeNull("it is what the card says");
        Should.Throw<ProblemException>(() => plan.WithAcceptedDigests(
            new Dictionary<string, Sha256Digest> { ["paint"] = digest })).Problem.Code.ShouldBe(ProblemCode.BadCommandLine);
    }

    private static readonly FixedOffers Offers = new(
    [
        ("guild", Card("base", "", "", "2.0", "1.2")), ("guild", Card("paint", "base@1.1..2", "", "1.0")),
        ("guild", Card("light", "base", "", "1.0")),
        ("guild", Card("studio", "paint", "", "1.0")), ("guild", Card("tool", "", "", "1.0")),
        ("guild", Card("foe", "", "paint@..1", "1.0")),
    ]);

    private static AppCard Card(string id, string need, string conflict, params string[] versions) =>
        CardSamples.With(id, [.. versions.Select(version => $"{version} 2026-01-01")]) with
        {
            Needs = need.Length == 0 ? [] : [RelatedApp.Parse(need)],
            Conflicts = conflict.Length == 0 ? [] : [RelatedApp.Parse(conflict)],
        };
}
