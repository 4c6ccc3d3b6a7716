using AmberCrate.Core.Bundles;
using AmberCrate.Core.Cards;
using AmberCrate.Core.Machine;
using AmberCrate.Core.Planning;
using AmberCrate.Core.Plans;
using AmberCrate.Core.Problems;
using AmberCrate.Core.Runs;
using AmberCrate.Core.Tests.Cards;
using AmberCrate.Core.Values;
using AmberCrate.Core.Versions;
using CsCheck;

namespace AmberCrate.Core.Tests.Planning;

/// <summary>
/// What no way of changing apps may do, held against all of them: change the catalogue of an installed app, take a withdrawn
/// release, make an app older that nobody asked to make older.
/// </summary>
public sealed class EveryRoadTests
{
    private static readonly string[] Names = ["guild", "house", "evil"];
    private static readonly string[] Versions = ["1.0", "1.1", "2.0"];
    private static readonly string[] Ids = ["scrim", "cue", "rope"];

    /// <summary>Every way to plan a change of apps.</summary>
    private static readonly Dictionary<string, Func<World, Plan>> Roads = new()
    {
        ["install"] = world => world.Planner.Install([world.Reference]),
        ["upgrade"] = world => world.Planner.Upgrade([]),
        ["upgrade of one"] = world => world.Planner.Upgrade([world.App]),
        ["equip"] = world => world.Planner.Equip(new Bundle { Apps = [new BundleApp(world.Reference, null)] }),
        ["equip with a version"] = world =>
            world.Planner.Equip(new Bundle { Apps = [new BundleApp(world.Reference, AppVersion.Parse(world.Version))] }),
        ["equip sealed"] = world => world.Planner.Equip(new Bundle { Apps = [world.Sealed] }),
        ["equip and uninstall others"] = world =>
            world.Planner.Equip(new Bundle { Apps = [world.Sealed] }, uninstallsOthers: true),
        ["retry"] = world => new RunRetry(world.Machine, world.Offers).Plan([world.Item with { Outcome = Outcome.Failed }]),
        ["undo"] = world => new RunUndo(world.Machine, world.Offers, _ => world.IsOnShelf).Plan(1, [world.Item], default),
        ["repair"] = world => world.Planner.Repair(
            world.Machine.Apps.Select(app => (app, new AppDamage(false, ["changed"])))),
    };

    public static TheoryData<string> EveryRoad => [.. Roads.Keys];

    /// <summary>The roads that may go to an older version of the app that they are asked for.</summary>
    private static readonly string[] ToOlder = ["equip with a version", "equip sealed", "equip and uninstall others", "undo",
        "retry"];

    private static readonly Gen<World> Worlds =
        from installed in Gen.Int[0, 3].Array[Ids.Length]
        from version in Gen.Int[0, 2].Array[Ids.Length]
        from offered in Gen.Bool.Array[Ids.Length * Names.Length]
        from named in Gen.Int[0, 3]
        from app in Gen.Int[0, Ids.Length - 1]
        from wanted in Gen.Int[0, 2]
        from shelf in Gen.Bool
        from order in Gen.Int[0, 2]
        from withdrawn in Gen.Int[0, 3].Array[Ids.Length * Versions.Length]
        from needs in Gen.Int[0, 5].Array[Ids.Length * Versions.Length]
        select new World(installed, version, offered, named, app, wanted, shelf, order, withdrawn, needs);

    [Theory]
    [MemberData(nameof(EveryRoad))]
    public void An_installed_app_stays_with_its_catalogue_on(string road) => Along(road, (world, item) =>
    {
        if (world.Machine.Find(AppId.Parse(item.Id)) is { } there && item.PutsOn)
            (item.Restores?.Catalogue ?? item.Offer!.Catalogue).ShouldBe(there.Catalogue, $"{road}: {item.Id}");
    });

    [Theory]
    [MemberData(nameof(EveryRoad))]
    public void No_withdrawn_release_comes_in_on(string road) => Along(road, (world, item) =>
    {
        if (!item.PutsOn || !world.IsWithdrawn(item.Id, item.To!.Text)) return;

        // Of a version on the shelf, nobody can tell that it was withdrawn if its catalogue does not say so.
        if (item.Restores is { } back && !world.Offers.Find(back.Id).Any(offer => offer.Catalogue == back.Catalogue)) return;
        item.Action.ShouldBe(PlanAction.Repair, $"{road}: {item.Id} {item.To}");
        if (item.Fetches) item.Note.ToString().ShouldContain("has withdrawn");
    });

    [Theory]
    [MemberData(nameof(EveryRoad))]
    public void Nothing_becomes_older_without_a_word_on(string road) => Along(road, (world, item) =>
    {
        if (item.Action != PlanAction.Downgrade || (item.Id == world.App && ToOlder.Contains(road))) return;
        (item.IsMadeOlder, road).ShouldBe((true, "install"));
    });

    private static void Along(string road, Action<World, PlanItem> holds) => Worlds.Sample(world =>
    {
        Plan plan;
        try
        {
            plan = Roads[road](world);
        }
        catch (ProblemException refused) when (refused.Problem.Code is ProblemCode.Refused or ProblemCode.NothingMatched
            or ProblemCode.NotVerified)
        {
            return;
        }

        foreach (var item in plan.Items) holds(world, item);
    }, iter: 500);

    [Theory]
    [InlineData("app", "scrim is installed from guild, and cannot be changed to evil (the app of that id may be another "
        + "one there)")]
    [InlineData("evil:app", "scrim is installed from guild, and cannot be changed to evil (the app of that id may be another one "
        + "there)")]
    public void A_sealed_entry_of_another_catalogue_is_refused_in_words(string reference, string says)
    {
        var offers = new FixedOffers(("evil", CardSamples.With("scrim", "2.0 2026-02-01")));
        var machine = FixedOffers.Machine("scrim 1.0 guild");
        var item = new Planner(machine, offers).Equip(new Bundle
        {
            Apps =
            [
                new BundleApp(
                    AppReference.Parse(reference.Replace("app", "scrim", StringComparison.Ordinal)), AppVersion.Parse("2.0"))
                {
                    Sha256 = Sha256Digest.Parse(CardSamples.Digest),
                },
            ],
        }).Items.ShouldHaveSingleItem();
        (item.Action, item.Note.ToString()).ShouldBe((PlanAction.Cannot, says));
    }

    private sealed record World(
        int[] Catalogue, int[] Installed, bool[] Offered, int Named, int At, int Wanted, bool IsOnShelf, int Order,
        int[] Withdrawn, int[] Needs)
    {
        public bool IsWithdrawn(string id, string version) => Withdrawn[Place(id, version)] == 0;

        public string App => Ids[At];

        public string Version => Versions[Wanted];

        public AppReference Reference => AppReference.Parse(Named == 3 ? App : $"{Names[Named]}:{App}");

        public MachineState Machine => FixedOffers.Machine([.. Enumerable.Range(0, Ids.Length).Where(at => Catalogue[at] < 3)
            .Select(at => $"{Ids[at]} {Versions[Installed[at]]} {Names[Catalogue[at]]}")]);

        private static int Place(string id, string version) =>
            (Array.IndexOf(Ids, id) * Versions.Length) + Array.IndexOf(Versions, version);

        public FixedOffers Offers => new([.. Enumerable.Range(0, Names.Length).Select(at => (at + Order) % Names.Length)
            .SelectMany(name => Enumerable.Range(0, Ids.Length).Where(at => Offered[(name * Ids.Length) + at])
                .Select(at => (Names[name], CardOf(Ids[at]))))]);

        /// <summary>A card of which some releases are withdrawn, and some need one version of the next app.</summary>
        private AppCard CardOf(string id)
        {
            var card = CardSamples.With(id, "2.0 2026-03-01", "1.1 2026-02-01", "1.0 2026-01-01");
            var next = Ids[(Array.IndexOf(Ids, id) + 1) % Ids.Length];
            return card with
            {
                Releases =
                [
                    .. card.Releases.Select(release => release with
                    {
                        Withdrawn = IsWithdrawn(id, release.Version.Text) ? "it loses work" : null,
                        Needs = Needs[Place(id, release.Version.Text)] is var need && need < Versions.Length
                            ? [RelatedApp.Parse($"{next}@{Versions[need]}")]
                            : [],
                    }),
                ],
            };
        }

        public Planner Planner => new(Machine, Offers);

        public BundleApp Sealed => new(Reference, AppVersion.Parse(Version))
        {
            Sha256 = Sha256Digest.Parse(CardSamples.Digest),
        };

        /// <summary>A run that had the app from another catalogue before it, perhaps.</summary>
        public RecordedItem Item => new(Reference, PlanAction.Install, AppVersion.Parse(Version), Outcome.Done)
        {
            Before = FixedOffers.Installed($"{App} {Version} {Names[Order]}"),
        };
    }
}
