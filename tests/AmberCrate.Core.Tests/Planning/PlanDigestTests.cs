using AmberCrate.Core.Cards;
using AmberCrate.Core.Machine;
using AmberCrate.Core.Planning;
using AmberCrate.Core.Plans;
using AmberCrate.Core.Tests.Cards;
using AmberCrate.Core.Values;
using AmberCrate.Core.Versions;

namespace AmberCrate.Core.Tests.Planning;

public sealed class PlanDigestTests
{
    private static readonly AppCard Paint = CardSamples.With("paint", "1.0 2026-01-01", "2.0 2026-02-01");

    private static readonly Plan Plan = Planned(Paint, [], "paint");

    [Fact]
    public void The_same_request_at_another_time_has_the_same_digest() =>
        Digest(Survey(Planned(
            CardSamples.With("paint", "1.0 2026-01-01", "2.0 2026-02-01"), [], "paint"))).ShouldBe(Digest(Whole));

    private static SurveyedPlan Whole => Survey(Plan);

    private static List<(string What, SurveyedPlan Plan)> Others() =>
    [
        ("another version", Survey(Planned(Paint, [], "paint@1.0"))),
        ("the same version, kept to something", Survey(Planned(Paint, [], "paint@2.0"))),
        ("an upgrade", Survey(Planned(Paint, ["paint 1.0 guild"], "paint@2.x"))),
        ("another card of the same release", Survey(Planned(Paint with { Summary = "Something else" }, [], "paint"))),
        ("a file that was stated", Survey(Plan.WithAcceptedDigests(
            new Dictionary<string, Sha256Digest> { ["paint"] = Sha256Digest.Parse(new string('a', 64)) }))),
        ("something for its installer", Survey(new Plan([Plan.Items[0] with { InstallerArguments = ["a"] }]))),
        ("two things for its installer", Survey(new Plan([Plan.Items[0] with { InstallerArguments = ["a", ""] }]))),
        ("two other things for its installer", Survey(new Plan([Plan.Items[0] with { InstallerArguments = ["", "a"] }]))),
        ("needed by something", Survey(new Plan([Plan.Items[0] with { NeededBy = ["a"] }]))),
        ("twice", Survey(new Plan([Plan.Items[0], Plan.Items[0]]))),
        ("nothing", Survey(new Plan([]))),
        ("with a catalogue", Survey(
            Plan with { Catalogues = [new PlannedCatalogue(CatalogueName.Parse("guild"), "/srv/guild")] })),
        ("with the same catalogue at another address", Survey(Plan with
        {
            Catalogues = [new PlannedCatalogue(CatalogueName.Parse("guild"), "/srv/other")],
        })),
        ("for all users", Whole with { Scope = InstallScope.AllUsers }),
        ("only fetched", Whole with { FetchesOnly = true }),
        ("with a command placed", Whole with { Places = [new PlannedPlace("paint", PlaceKind.Command, "/usr/local/bin/paint")] }),
        ("with a command placed elsewhere", Whole with
        {
            Places = [new PlannedPlace("paint", PlaceKind.Command, "/usr/bin/paint")],
        }),
        ("with an installer, confined", Whole with
        {
            Starts = [new PlannedStart(StartReason.Installer, "paint", "files/paint.run", true)],
        }),
        ("with an installer, not confined", Whole with
        {
            Starts = [new PlannedStart(StartReason.Installer, "paint", "files/paint.run", false)],
        }),
        ("from another address", Survey(new Plan(
            [Plan.Items[0] with { Offer = Plan.Items[0].Offer! with { Base = new Uri("https://elsewhere.example/") } }]))),
    ];

    [Fact]
    public void Whatever_else_would_be_done_has_another_digest()
    {
        var digests =
            Others().Append(("as it is", Whole)).Select(other => (What: other.Item1, Digest: Digest(other.Item2))).ToList();
        digests.GroupBy(pair => pair.Digest)
            .Where(group => group.Count() > 1)
            .SelectMany(group => group.Select(pair => pair.What))
            .ShouldBeEmpty();
    }

    [Fact]
    public void What_is_a_matter_of_the_moment_does_not_change_the_digest() => Digest(Whole with
    {
        Rights = new RightsNeed(RightsState.Raised, "sudo"),
        Space = [new SpaceNeed("/", 5, 6, 4)],
        FetchedSize = 3,
        FirstOnPath = "/usr/local/bin",
    }).ShouldBe(Digest(Whole));

    private static Sha256Digest Digest(SurveyedPlan plan) => PlanDigest.Compute(plan);

    private static SurveyedPlan Survey(Plan plan) => SurveyedPlan.DoNothing(InstallScope.ThisUser) with { Solved = plan };

    private static Plan Planned(AppCard card, string[] installed, string reference) =>
        new Planner(FixedOffers.Machine(installed), new FixedOffers(("guild", card))).Install([AppReference.Parse(reference)]);
}
