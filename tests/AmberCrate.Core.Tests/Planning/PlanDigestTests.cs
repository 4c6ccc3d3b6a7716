using AmberCrate.Core.Cards;
using AmberCrate.Core.Planning;
using AmberCrate.Core.Tests.Cards;
using AmberCrate.Core.Values;
using AmberCrate.Core.Versions;

namespace AmberCrate.Core.Tests.Planning;

public sealed class PlanDigestTests
{
    private static readonly AppCard Paint = CardSamples.With("paint", "1.0 2026-01-01", "2.0 2026-02-01");

    private static readonly Plan Plan = Planned(Paint, [], "paint");

    [Fact]
    public void The_same_request_at_another_time_has_the_same_digest() => Digest(Planned(CardSamples.With("paint", "1.0 2026-01-01", "2.0 2026-02-01"), [], "paint")).ShouldBe(Digest(Plan));

    private static List<(string What, Plan Plan)> Others() =>
    [
        ("another version", Planned(Paint, [], "paint@1.0")),
        ("the same version, kept to something", Planned(Paint, [], "paint@2.0")),
        ("an upgrade", Planned(Paint, ["paint 1.0 guild"], "paint@2.x")),
        ("another card of the same release", Planned(Paint with { Summary = "Something else" }, [], "paint")),
        ("a file that was stated", Plan.Expecting(new Dictionary<string, Sha256Digest> { ["paint"] = Sha256Digest.Parse(new string('a', 64)) })),
        ("something for its installer", new Plan([Plan.Items[0] with { ToInstaller = ["a"] }])),
        ("two things for its installer", new Plan([Plan.Items[0] with { ToInstaller = ["a", ""] }])),
        ("two other things for its installer", new Plan([Plan.Items[0] with { ToInstaller = ["", "a"] }])),
        ("needed by something", new Plan([Plan.Items[0] with { NeededBy = ["a"] }])),
        ("twice", new Plan([Plan.Items[0], Plan.Items[0]])),
        ("nothing", new Plan([])),
    ];

    [Fact]
    public void Whatever_else_would_be_done_has_another_digest()
    {
        var digests = Others().Append(("as it is", Plan)).Select(other => (What: other.Item1, Digest: Digest(other.Item2))).Append((What: "with a catalogue", Digest: PlanDigest.Of(Plan, ["guild /srv/guild"]))).ToList();
        digests.GroupBy(pair => pair.Digest).Where(group => group.Count() > 1).SelectMany(group => group.Select(pair => pair.What)).ShouldBeEmpty();
    }

    private static Sha256Digest Digest(Plan plan) => PlanDigest.Of(plan, []);

    private static Plan Planned(AppCard card, string[] installed, string reference) => new Planner(FixedOffers.Machine(installed), new FixedOffers(("guild", card))).Install([AppReference.Parse(reference)]);
}
