using AmberCrate.Core.Cards;
using AmberCrate.Core.Planning;
using AmberCrate.Core.Tests.Cards;
using AmberCrate.Core.Values;
using AmberCrate.Core.Versions;

namespace AmberCrate.Core.Tests.Planning;

public sealed class AppAssessmentTests
{
    private static readonly AppCard Card =
        CardSamples.With("scrim-paint", "4.2 2026-05-01", "4.1 2026-01-01", "5.0-rc1 2026-06-01", "3.9 2025-01-01 lts");

    private static readonly FixedOffers Offers = new(
        ("house", CardSamples.With("scrim-paint", "4.3 2026-07-01 stable aarch64-linux-gnu")),
        ("guild", Card),
        ("loft", Card with { Developer = new Developer("Somebody"), Licence = "MIT" }));

    [Theory]
    [InlineData("scrim-paint", "", "guild 4.2 | acrate install scrim-paint")]
    [InlineData("Scrim Paint@4.1", "", "guild 4.1 | acrate install scrim-paint@4.1")]
    [InlineData("loft:scrim-paint@lts", "", "loft 3.9 | acrate install loft:scrim-paint@lts")]
    [InlineData("scrim-paint", "scrim-paint 4.1 loft", "loft 4.2 | acrate upgrade scrim-paint")]
    [InlineData("scrim-paint", "scrim-paint 4.2 loft", "loft 4.2 | ")]
    [InlineData("house:scrim-paint", "", "house none | ")]
    public void It_shows_what_this_machine_would_get_and_how(string reference, string installed, string expected)
    {
        var assessment =
            AppAssessment.Assess(
                AppReference.Parse(reference), Offers, FixedOffers.Machine(installed.Length == 0 ? [] : [installed]));
        $"{assessment.Offer!.Catalogue} {assessment.Choice?.Release.Version.Text ?? "none"} | {assessment.Next}".ShouldBe(
            expected);
    }

    [Fact]
    public void Other_catalogues_are_compared()
    {
        var assessment = AppAssessment.Assess(AppReference.Parse("guild:scrim-paint"), Offers, FixedOffers.Machine());
        assessment.Others
            .Select(other => $"{other.Offer.Catalogue} {other.Choice?.Release.Version}: {string.Join(' ', other.Differences)}")
            .ShouldBe(["house : version", "loft 4.2: developer licence"]);
    }

    [Fact]
    public void The_same_version_with_another_digest_is_noticed()
    {
        var other = Card with
        {
            Releases = [.. Card.Releases.Select(release => release with { Artifacts =
        [
            .. release.Artifacts.Select(artifact => artifact with { Sha256 = Sha256Digest.Parse(new string('a', 64)) }),
        ] })]
        };
        AppAssessment.Assess(
            AppReference.Parse("guild:scrim-paint"),
            new FixedOffers(("guild", Card), ("loft", other)),
            FixedOffers.Machine()).Others[0].Differences.ShouldBe(["digest"]);
    }

    [Fact]
    public void Nothing_is_proposed_where_what_is_needed_cannot_be_had()
    {
        var assessment = AppAssessment.Assess(
            AppReference.Parse("guild:scrim-paint"),
            new FixedOffers(("guild", Card with { Needs = [RelatedApp.Parse("batten-runtime@2..")] })), FixedOffers.Machine());
        assessment.AlongProblem.ShouldNotBeNull().Details.ShouldBe(
            ["scrim-paint 4.2 needs batten-runtime@2.., and no such release is offered for this machine"]);
        assessment.Next.ShouldBeNull();
    }

    [Fact]
    public void The_newest_of_each_line_is_shown_the_followed_one_first() =>
        AppAssessment.Assess(AppReference.Parse("guild:scrim-paint"), Offers, FixedOffers.Machine()).Lines
            .Select(release => release.Version.Text)
            .ShouldBe(["4.2", "5.0-rc1", "3.9"]);

    [Fact]
    public void What_is_offered_no_more_is_known_from_the_record()
    {
        var assessment = AppAssessment.Assess(AppReference.Parse("cue-ledger"), Offers,
            FixedOffers.Machine("cue-ledger 1.0 attic"));
        (assessment.Id.Text, assessment.Offer, assessment.Next).ShouldBe(("cue-ledger", null, null));
    }
}
