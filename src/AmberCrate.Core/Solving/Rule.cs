namespace AmberCrate.Core.Solving;

/// <summary>
/// Says that its terms are never all true at once. A rule is given, with the fact that it means, or follows from two others.
/// </summary>
public sealed class Rule
{
    private readonly Rule? _left;
    private readonly Rule? _right;

    /// <summary>Makes a given rule.</summary>
    /// <param name="fact">What it means, for explanations.</param>
    /// <param name="terms">The terms, each of another variable; none for what is never possible.</param>
    public Rule(object fact, params IReadOnlyList<Term> terms) => (Fact, Terms) = (fact, terms);

    internal Rule(IReadOnlyList<Term> terms, Rule left, Rule right) => (Terms, _left, _right) = (terms, left, right);

    /// <summary>The terms.</summary>
    public IReadOnlyList<Term> Terms { get; }

    /// <summary>What a given rule means; null for one that follows from others.</summary>
    public object? Fact { get; }

    /// <summary>The given rules that this one follows from, itself where it is one, each once.</summary>
    public IReadOnlyList<Rule> Given()
    {
        var seen = new HashSet<Rule>();
        var given = new List<Rule>();
        var left = new Stack<Rule>([this]);
        while (left.TryPop(out var rule))
        {
            if (!seen.Add(rule)) continue;
            if (rule._left is null || rule._right is null)
            {
                given.Add(rule);
                continue;
            }

            left.Push(rule._right);
            left.Push(rule._left);
        }

        return given;
    }
}
