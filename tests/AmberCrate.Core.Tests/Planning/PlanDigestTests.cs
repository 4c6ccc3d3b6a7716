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
        Digest(Planned(CardSamples.With("paint", "1.0 2026-01-01", "2.0 2026-02-01"), [], "paint")).ShouldBe(Digest(Plan));

    private static List<(string What, Plan Plan)> Others() =>
    [
        ("another version", Planned(Paint, [], "paint@1.0")),
        ("the same version, kept to something", Planned(Paint, [], "paint@2.0")),
        ("an upgrade", Planned(Paint, ["paint 1.0 guild"], "paint@2.x")),
        ("another card of the same release", Planned(Paint with { Summary = "Something else" }, [], "paint")),
        ("a file that was stated", Plan.WithAcceptedDigests(
            new Dictionary<string, Sha256Digest> { ["paint"] = Sha256Digest.Parse(new string('a', 64)) })),
        ("something for its installer", new Plan([Plan.Items[0] with { InstallerArguments = ["a"] }])),
        ("two things for its installer", new Plan([Plan.Items[0] with { InstallerArguments = ["a", ""] }])),
        ("two other things for its installer", new Plan([Plan.Items[0] with { InstallerArguments = ["", "a"] }])),
        ("needed by something", new Plan([Plan.Items[0] with { NeededBy = ["a"] }])),
        ("twice", new Plan([Plan.Items[0], Plan.Items[0]])),
        ("nothing", new Plan([])),
        ("with a catalogue", Plan with { Catalogues = [new PlannedCatalogue(CatalogueName.Parse("guild"), "/srv/guild")] }),
        ("with the same catalogue at another address", Plan with
        {
            Catalogues = [new PlannedCatalogue(CatalogueName.Parse("guild"), "/srv/other")],
        }),
        ("for all users", Plan with { Scope = InstallScope.AllUsers }),
        ("only fetched", Plan with { FetchesOnly = true }),
        ("with a command placed", Plan with { Places = [new PlannedPlace("paint", PlaceKind.Command, "/usr/local/bin/paint")] }),
        ("with a command placed elsewhere", Plan with
        {
            Places = [new PlannedPlace("paint", PlaceKind.Command, "/usr/bin/paint")],
        }),
        ("with an installer, confined", Plan with
        {
            Starts = [new PlannedStart(StartReason.Installer, "paint", "files/paint.run", true)],
        }),
        ("with an installer, not confined", Plan with
        {
            Starts = [new PlannedStart(StartReason.Installer, "paint", "files/paint.run", false)],
        }),
        ("from another address", new Plan(
            [Plan.Items[0] with { Offer = Plan.Items[0].Offer! with { Base = new Uri("https://elsewhere.example/") } }])),
    ];

    [Fact]
    public void Whatever_else_would_be_done_has_another_digest()
    {
        var digests =
            Others().Append(("as it is", Plan)).Select(other => (What: other.Item1, Digest: Digest(other.Item2))).ToList();
        digests.GroupBy(pair => pair.Digest)
            .Where(group => group.Count() > 1)
            .SelectMany(group => group.Select(pair => pair.What))
            .ShouldBeEmpty();
    }

    [Fact]
    public void What_is_a_matter_of_the_moment_does_not_change_the_digest() => Digest(Plan with
    {
        Rights = new RightsNeed(RightsState.Raised, "sudo"),
        Space = [new SpaceNeed("/", 5, 6, 4)],
        FetchedSize = 3,
        FirstOnPath = "/usr/local/bin",
    }).ShouldBe(Digest(Plan));

    private static Sha256Digest Digest(Plan plan) => PlanDigest.Compute(plan);

    private static Plan Planned(AppCard card, string[] installed, string reference) =>
        new Planner(FixedOffers.Machine(installed), new FixedOffers(("guild", card))).Install([AppReference.Parse(reference)]);
}
