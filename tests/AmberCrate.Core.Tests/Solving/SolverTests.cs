using AmberCrate.Core.Solving;
using CsCheck;

namespace AmberCrate.Core.Tests.Solving;

public sealed class SolverTests
{
    private const long Plenty = 10_000_000;

    private static readonly Gen<Problem> Problems =
        from sizes in Gen.Int[1, 4].Array[1, 7]
        from rules in Rules(sizes).List[0, 26]
        from preferences in Terms(sizes).List[0, 5]
        from order in Gen.Shuffle(Enumerable.Range(0, sizes.Length).ToArray())
        select new Problem(sizes, [.. rules.Select((terms, at) => new Rule(at, terms))],
        [
            .. preferences.Select(term => new Preference.That(term)),
            .. order.Select(variable => new Preference.Smallest(variable)),
        ]);

    [Fact]
    public void What_is_found_is_the_first_by_preference_and_nothing_is_found_only_where_there_is_nothing() => Problems.Sample(
        problem =>
        {
            var best = problem.Assignments(problem.Rules).MinBy(problem.Rank, Ranks.Comparer);
            var solution = new Solver(problem.Sizes, problem.Rules).Solve(problem.Preferences, Plenty);
            if (best is not null) solution.ShouldBeOfType<Solution.Found>().Values.ShouldBe(best);
            else problem.Assignments(solution.ShouldBeOfType<Solution.Impossible>().Because).ShouldBeEmpty();
        },
        iter: 10_000);

    [Fact]
    public void The_reasons_are_given_rules() => Problems.Sample(problem =>
    {
        if (new Solver(problem.Sizes, problem.Rules).Solve([], Plenty) is Solution.Impossible impossible)
            impossible.Because.ShouldAllBe(rule => problem.Rules.Contains(rule));
    });

    [Fact]
    public void What_would_take_too_long_is_given_up()
    {
        // Ten things in nine places, no two in one: known to take every resolution proof more than any patience (Haken, 1985).
        var rules = from one in Enumerable.Range(0, 10)
                    from other in Enumerable.Range(one + 1, 9 - one)
                    from place in Enumerable.Range(0, 9)
                    select new Rule("", new Term(one, ValueSet.One(place)), new Term(other, ValueSet.One(place)));
        new Solver([.. Enumerable.Repeat(9, 10)], rules).Solve([], 100_000).ShouldBeOfType<Solution.GivenUp>();
    }

    [Fact]
    public void Sets_are_as_sets_are() =>
        Gen.Select(Gen.Int[0, 200].HashSet[0, 30], Gen.Int[0, 200].HashSet[0, 30]).Sample((left, right) =>
    {
        var (a, b) = (ValueSet.Create(left), ValueSet.Create(right));
        a.Values.ShouldBe(left.Order());
        (a | b).Values.ShouldBe(left.Union(right).Order());
        (a & b).Values.ShouldBe(left.Intersect(right).Order());
        (a - b).Values.ShouldBe(left.Except(right).Order());
        a.IsWithin(b).ShouldBe(left.IsSubsetOf(right));
        a.Meets(b).ShouldBe(left.Overlaps(right));
        (a == b).ShouldBe(left.SetEquals(right));
        (a.Count, a.First, a.IsEmpty).ShouldBe((left.Count, left.Count == 0 ? -1 : left.Min(), left.Count == 0));
        ValueSet.Below(left.Count).Values.ShouldBe(Enumerable.Range(0, left.Count));
    });

    private static Gen<Term> Terms(int[] sizes) =>
        from variable in Gen.Int[0, sizes.Length - 1]
        from values in Gen.Int[0, sizes[variable] - 1].HashSet[1, sizes[variable]]
        select new Term(variable, ValueSet.Create(values));

    private static Gen<List<Term>> Rules(int[] sizes) =>
        Terms(sizes).List[1, 3].Select(terms => terms.DistinctBy(term => term.Variable).ToList());

    private sealed record Problem(int[] Sizes, IReadOnlyList<Rule> Rules, IReadOnlyList<Preference> Preferences)
    {
        public IEnumerable<int[]> Assignments(IReadOnlyList<Rule> rules) => All(0, new int[Sizes.Length])
            .Where(values => rules.All(rule => rule.Terms.Any(term => !term.Values.Contains(values[term.Variable]))));

        public int[] Rank(int[] values) => [.. Preferences.Select(preference => preference switch
        {
            Preference.That that => that.Term.Values.Contains(values[that.Term.Variable]) ? 0 : 1,
            Preference.Smallest smallest => values[smallest.Variable],
            _ => throw new NotSupportedException(),
        })];

        private IEnumerable<int[]> All(int variable, int[] values)
        {
            if (variable == Sizes.Length) return [(int[])values.Clone()];
            return Enumerable.Range(0, Sizes[variable]).SelectMany(value =>
            {
                values[variable] = value;
                return All(variable + 1, values).ToList();
            });
        }
    }

    private static class Ranks
    {
        public static readonly IComparer<int[]> Comparer = Comparer<int[]>.Create((left, right) =>
            left.Zip(right, (a, b) => a.CompareTo(b)).FirstOrDefault(order => order != 0));
    }
}
