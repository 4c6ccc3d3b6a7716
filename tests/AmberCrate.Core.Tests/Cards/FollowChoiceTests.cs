using AmberCrate.Core.Cards;
using AmberCrate.Core.Values;
using AmberCrate.Core.Versions;
using CsCheck;

namespace AmberCrate.Core.Tests.Cards;

public sealed class FollowChoiceTests
{
    [Fact]
    public void An_app_can_follow_its_other_lines_the_series_of_its_versions_and_each_version()
    {
        var card = CardSamples.With(
            "scrim", "5.0-rc1 2026-10-01", "4.2.1 2026-09-01", "4.1.0 2026-08-01", "3.6.5 2026-07-01 lts");
        FollowChoice.ListFor(card).Select(choice => $"{choice.Selector} {choice.Newest}").ShouldBe(
        [
            "preview 5.0-rc1", "lts 3.6.5", "4.x 4.2.1", "4.2.x 4.2.1", "4.1.x 4.1.0", "3.x 3.6.5", "3.6.x 3.6.5",
            "5.0-rc1 5.0-rc1", "4.2.1 4.2.1", "4.1.0 4.1.0", "3.6.5 3.6.5",
        ]);
        FollowChoice.NewestOf(card)!.Version.Text.ShouldBe("4.2.1");
    }

    [Fact]
    public void What_is_withdrawn_is_no_choice()
    {
        var card = CardSamples.With("scrim", "4.2.1 2026-09-01", "4.1.0 2026-08-01");
        var left = card with
        {
            Releases = [card.Releases[0] with { Withdrawn = "it loses cloths" }, card.Releases[1]],
        };
        FollowChoice.ListFor(left).Select(choice => choice.Selector.ToString()).ShouldBe(["4.x", "4.1.x", "4.1.0"]);
        FollowChoice.NewestOf(left)!.Version.Text.ShouldBe("4.1.0");
        var none = left with { Releases = [left.Releases[0]] };
        FollowChoice.ListFor(none).ShouldBeEmpty();
        FollowChoice.NewestOf(none).ShouldBeNull();
    }

    /// <summary>Whatever is chosen, a reference with it is accepted, and gives the version that was shown.</summary>
    [Fact]
    public void Every_choice_gives_the_version_that_is_shown() => Check.Sample(
        Gen.Int[0, 30].Array[1, 4].Array[1, 12],
        versions =>
        {
            var ordered = versions.Select(parts => AppVersion.Parse(string.Join('.', parts))).Distinct().OrderDescending();
            var card = CardSamples.With("scrim", [.. ordered.Select(version => $"{version} 2026-09-01")]);
            var machine = Platform.Parse("x86_64-linux-gnu");
            foreach (var choice in FollowChoice.ListFor(card))
                card.ReleasesFor(machine, choice.Selector).First().Version.ShouldBe(choice.Newest);
        });
}
