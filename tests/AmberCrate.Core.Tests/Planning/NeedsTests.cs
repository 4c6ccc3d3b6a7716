using AmberCrate.Core.Cards;
using AmberCrate.Core.Machine;
using AmberCrate.Core.Planning;
using AmberCrate.Core.Problems;
using AmberCrate.Core.Tests.Cards;
using CsCheck;

namespace AmberCrate.Core.Tests.Planning;

public sealed class NeedsTests
{
    [Theory]
    [InlineData("paint", "", "base install 1.2 <paint, paint install 1.0")]
    [InlineData("plot", "", "base install 2.0 <plot, plot install 1.0")]
    [InlineData("paint,light", "", "base install 1.2 <paint light, paint install 1.0, light install 1.0")]
    [InlineData("paint", "base 1.1", "paint install 1.0")]
    [InlineData("paint", "base 1.0", "base upgrade 1.2 <paint, paint install 1.0")]
    [InlineData("paint,base", "", "base install 1.2, paint install 1.0")]
    [InlineData("ring-a", "", "ring-b install 1.0 <ring-a, ring-a install 1.0")]
    [InlineData("studio", "", "base install 1.2 <paint, paint install 1.0 <studio, studio install 1.0")]
    [InlineData("plot,paint", "", "refused: paint 1.0 needs base@1.1..2; plot 1.0 needs base@2..")]
    [InlineData("paint,base@2.0", "", "refused: paint 1.0 needs base@1.1..2; you asked for base@2.0")]
    [InlineData("plot", "base 1.1 @..2", "refused: plot 1.0 needs base@2..; you asked for base@..2")]
    [InlineData("plot", "old 1.0 needs:base@..2,base 1.1", "refused: old 1.0 (installed) needs base@..2; plot 1.0 needs base@2..")]
    [InlineData("lost", "", "refused: lost 1.0 needs nowhere")]
    public void What_is_needed_comes_along_or_the_reasons_are_named(string asked, string installed, string expected) => Planned(asked, installed).ShouldBe(expected);

    [Theory]
    [InlineData("base", "base 1.1,old 1.0 needs:base@..2", "refused: old 1.0 needs base@..2")]
    [InlineData("base,old", "base 1.1,old 1.0 needs:base@..2", "base uninstall, old uninstall")]
    public void What_others_need_stays(string names, string installed, string expected)
    {
        string Act() => string.Join(", ", new Planner(Machine(installed), Offers).Uninstall(names.Split(',')).Items.Select(item => $"{item.Id} uninstall"));
        Said(Act).ShouldBe(expected);
    }

    [Theory]
    [InlineData("base 1.1,old 1.0 needs:base@..2,tool 0.9", "base Upgrade 1.2 | tool Upgrade 1.0 ")]
    [InlineData("base 1.2,old 1.0 needs:base@..2,tool 0.9", "base Keep 1.2 newer ones do not suit old| tool Upgrade 1.0 ")]
    [InlineData("base 1.2 @1.2,plot 0.9,tool 0.9", "base StayPinned 1.2 2.0 is outside @1.2| plot Cannot  no release of base suits everything that needs it (plot 1.0 needs base@2..; you asked for base@1.2)| tool Upgrade 1.0 ")]
    public void An_upgrade_goes_as_far_as_others_can_follow_and_does_the_rest(string installed, string expected) =>
        string.Join("| ", new Planner(Machine(installed), Offers).Upgrade([]).Items.Select(item => $"{item.Id} {item.Action} {item.To} {item.Note}")).ShouldBe(expected);

    [Fact]
    public void Whatever_comes_out_meets_every_need() =>
        Gen.Select(Gen.Int[0, 4].Array[6], Gen.Int[0, 5].List[1, 4], Gen.Int[0, 3]).Sample((bounds, asked, have) =>
        {
            // Six apps in a row; each needs the next one up to a bound, and that has releases 1 to 4.
            var cards = bounds.Select((bound, at) => Card($"app-{at}", at < 5 ? $"app-{at + 1}@..{bound + 1}" : null, "4.0", "3.0", "2.0", "1.0")).ToArray();
            var offers = new FixedOffers([.. cards.Select(card => ("guild", card))]);
            var machine = FixedOffers.Machine(have == 0 ? [] : [$"app-5 {have}.0 guild"]);
            try
            {
                var items = new Planner(machine, offers).Install(asked.Select(at => AppReference.Parse($"app-{at}"))).Items.ToList();
                foreach (var item in items.Where(item => item.Fetches))
                {
                    foreach (var need in item.Offer!.Card.NeedsOf(item.Release!))
                    {
                        var there = items.Find(other => other.Id == need.Id.Text)?.To ?? machine.Find(need.Id)?.Version;
                        need.Selector!.Accepts(there.ShouldNotBeNull(), AmberCrate.Core.Versions.ReleaseLine.Stable).ShouldBeTrue();
                        items.FindIndex(other => other.Id == need.Id.Text).ShouldBeLessThan(items.IndexOf(item));
                    }
                }
            }
            catch (ProblemException refused)
            {
                refused.Problem.Code.ShouldBe(ProblemCode.Refused);
                bounds.ShouldContain(0, "only @..1 accepts none of the releases");
            }
        });

    private static readonly FixedOffers Offers = new(
    [
        .. new[]
        {
            Card("base", null, "2.0", "1.2", "1.1", "1.0"), Card("paint", "base@1.1..2", "1.0"), Card("light", "base", "1.0"), Card("plot", "base@2..", "1.0"),
            Card("ring-a", "ring-b", "1.0"), Card("ring-b", "ring-a", "1.0"), Card("studio", "paint", "1.0"), Card("lost", "nowhere", "1.0"), Card("tool", null, "1.0"), Card("old", "base@..2", "1.0"),
        }.Select(card => ("guild", card)),
    ]);

    private static AppCard Card(string id, string? need, params string[] versions) =>
        CardSamples.With(id, [.. versions.Select(version => $"{version} 2026-01-01")]) with { Needs = need is null ? [] : [AppNeed.Parse(need)] };

    /// <summary>A machine with apps given as "id version [@asked] [needs:need]".</summary>
    private static MachineState Machine(string apps) => new(FixedOffers.Here, apps.Split(',', StringSplitOptions.RemoveEmptyEntries).Select(text =>
    {
        var words = text.Split(' ');
        var asked = Array.Find(words, word => word.StartsWith('@'))?[1..];
        var need = Array.Find(words, word => word.StartsWith("needs:", StringComparison.Ordinal))?["needs:".Length..];
        return FixedOffers.Installed($"{words[0]} {words[1]} guild{(asked is null ? "" : " " + asked)}") with { Needs = need is null ? [] : [AppNeed.Parse(need)] };
    }));

    private static string Planned(string asked, string installed) => Said(() => string.Join(", ", new Planner(Machine(installed), Offers)
        .Install(asked.Split(',').Select(AppReference.Parse)).Items
        .Select(item => $"{item.Id} {item.Action.ToString().ToLowerInvariant()} {item.To}{(item.NeededBy.Count > 0 ? $" <{string.Join(' ', item.NeededBy)}" : "")}")));

    private static string Said(Func<string> plan)
    {
        try
        {
            return plan();
        }
        catch (ProblemException refused)
        {
            return "refused: " + (refused.Problem.Details.Count > 0 ? string.Join("; ", refused.Problem.Details.Order(StringComparer.Ordinal)) : refused.Problem.Why);
        }
    }
}
