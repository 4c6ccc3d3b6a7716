using AmberCrate.Core.Cards;
using AmberCrate.Core.Machine;
using AmberCrate.Core.Planning;
using AmberCrate.Core.Plans;
using AmberCrate.Core.Problems;
using AmberCrate.Core.Tests.Cards;
using AmberCrate.Core.Versions;
using CsCheck;

namespace AmberCrate.Core.Tests.Planning;

/// <summary>Plans for small worlds made at random, beside what trying every state of the machine finds.</summary>
public sealed class CompletenessTests
{
    private const int Apps = 5;
    private const int Releases = 3;

    private static readonly Gen<World> Worlds =
        from needs in Gen.Int[0, 2].List[0, 1].Array[Apps * Releases]
        from targets in Gen.Int[0, Apps - 1].Array[Apps * Releases]
        from bounds in Gen.Int[1, 2 * Releases].Array[Apps * Releases]
        from conflicts in Gen.Int[0, (Apps * 4) - 1].Array[Apps * Releases]
        from installed in Gen.Int[0, Releases].Array[Apps]
        from held in Gen.Int[0, 3].Array[Apps]
        from asked in Gen.Int[0, Apps - 1].HashSet[1, 3]
        select new World(needs, targets, bounds, conflicts, installed, held, [.. asked.Order()]);

    [Fact]
    public void A_plan_keeps_to_everything_and_none_is_refused_where_there_is_one() => Worlds.Sample(
        world =>
        {
            var states = world.Goals().ToList();
            try
            {
                var plan =
                    new Planner(world.Machine, world.Offers).Install(
                        world.Follows.Select(at => AppReference.Parse(World.Id(at))));
                var after = world.After(plan);
                states.ShouldContain(state => state.SequenceEqual(after));

                // Nothing becomes older if there is any plan without that.
                bool MakesOlder(int[] state) =>
                    Enumerable.Range(0, Apps).Any(app => world.Installed[app] > 0 && state[app] < world.Installed[app]);
                if (MakesOlder(after)) states.Where(state => !MakesOlder(state)).ShouldBeEmpty();
                else states.RemoveAll(MakesOlder);

                // Nothing moves that need not: no other plan has the same of what was asked for and moves only a part of the
                // rest.
                bool Moves(int[] state, int app) =>
                    !world.Follows.Contains(app) && world.Installed[app] > 0 && state[app] != world.Installed[app];
                bool MovesLess(int[] state) => Enumerable.Range(0, Apps).All(app => !Moves(state, app) || Moves(after, app))
                    && Enumerable.Range(0, Apps).Any(app => Moves(after, app) && !Moves(state, app));
                states.Where(state => world.Follows.All(app => state[app] == after[app])).Where(MovesLess).ShouldBeEmpty();
            }
            catch (ProblemException refused) when (refused.Problem.Code is ProblemCode.Refused or ProblemCode.NothingMatched)
            {
                states.ShouldBeEmpty();
                refused.Problem.Details.ShouldNotBeEmpty();
            }
        },
        iter: 1000);

    [Fact]
    public void The_same_request_gives_the_same_plan() => Worlds.Sample(
        world =>
        {
            Said(world).ShouldBe(Said(world));
            static string Said(World world)
            {
                try
                {
                    return string.Join(", ", new Planner(world.Machine, world.Offers).Upgrade([]).Items.Select(
                        item => $"{item.Id} {item.Action} {item.To} {item.Note}"));
                }
                catch (ProblemException refused)
                {
                    return refused.Problem.ToString();
                }
            }
        },
        iter: 300);

    /// <summary>
    /// A state of the machine is the number of the release of every app, counted from 1, the oldest first; 0 where it is not
    /// there.
    /// </summary>
    private sealed record World(
        List<int>[] NeedOf, int[] Targets, int[] Bounds, int[] ConflictOf, int[] Installed, int[] Held, int[] Follows)
    {
        public FixedOffers Offers => new([.. Enumerable.Range(0, Apps).Select(app => ("guild", Card(app)))]);

        public MachineState Machine =>
            new(FixedOffers.Here, Enumerable.Range(0, Apps).Where(app => Installed[app] > 0).Select(app =>
            FixedOffers.Installed($"{Id(app)} {Installed[app]}.0 guild") with
            {
                Follows = AskedOf(app),
                Needs = Needs(app, Installed[app]),
                Conflicts = Conflicts(app, Installed[app]),
            }));

        public static string Id(int app) => $"app-{app}";

        public int[] After(Plan plan)
        {
            var after = (int[])Installed.Clone();
            foreach (var item in plan.Items.Where(item => item.Fetches))
                after[int.Parse(item.Id[4..])] = int.Parse(item.To!.Text[..^2]);
            return after;
        }

        /// <summary>
        /// Every state in which what is asked for is there, what was there still is, within its bounds, and what changed keeps to
        /// all needs and conflicts.
        /// </summary>
        public IEnumerable<int[]> Goals() => All(0, new int[Apps])
            .Where(state => Follows.All(app => state[app] > 0)
                && Enumerable.Range(0, Apps).All(app => Installed[app] == 0 || state[app] > 0))
            .Where(state => Enumerable.Range(0, Apps).All(app => state[app] == 0
                || state[app] == Installed[app]
                || AskedOf(app)?.Accepts(Version(state[app]), ReleaseLine.Stable) != false
                || Installed[app] == 0))
            .Where(state => Enumerable.Range(0, Apps).All(app => state[app] == 0 || Suits(state, app)));

        private bool Suits(int[] state, int app) =>
            Needs(app, state[app]).All(need => IsMet(state, need) || (state[app] == Installed[app] && !IsMet(Installed, need)))
            && Conflicts(app, state[app]).All(other => !IsMet(state, other) || other.Id.Text == Id(app)
                || (state[app] == Installed[app] && IsMet(Installed, other) && state[Number(other)] == Installed[Number(other)]));

        private static int Number(RelatedApp other) => int.Parse(other.Id.Text[4..]);

        private static bool IsMet(int[] state, RelatedApp need) =>
            state[Number(need)] is > 0 and var release && need.Accepts(Version(release), ReleaseLine.Stable);

        private static AppVersion Version(int release) => AppVersion.Parse($"{release}.0");

        private VersionSelector? AskedOf(int app) => Held[app] == 3 ? VersionSelector.Parse("..3") : null;

        private AppCard Card(int app)
        {
            var card = CardSamples.With(
                Id(app), [.. Enumerable.Range(1, Releases).Select(release => $"{release}.0 2026-01-01").Reverse()]);
            return card with
            {
                Releases = [.. card.Releases.Select((
                release, at) => release with { Needs = Needs(app, Releases - at), Conflicts = Conflicts(app, Releases - at) })]
            };
        }

        private RelatedApp[] Needs(int app, int release)
        {
            var at = (app * Releases) + release - 1;
            return NeedOf[at].Count == 0 || Targets[at] == app ? [] : [RelatedApp.Parse(
                $"{Id(Targets[at])}@{(Bounds[at] <= Releases ? $"{Bounds[at]}.." : $"..{Bounds[at] - Releases + 1}")}")];
        }

        private RelatedApp[] Conflicts(int app, int release)
        {
            var other = ConflictOf[(app * Releases) + release - 1];
            return other >= Apps || other == app ? [] : [RelatedApp.Parse(Id(other))];
        }

        private static IEnumerable<int[]> All(int app, int[] state)
        {
            if (app == Apps) return [(int[])state.Clone()];
            return Enumerable.Range(0, Releases + 1).SelectMany(release =>
            {
                state[app] = release;
                return All(app + 1, state).ToList();
            });
        }
    }
}
