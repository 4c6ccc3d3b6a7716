namespace AmberCrate.Core.Solving;

/// <summary>What came out of solving.</summary>
public abstract record Solution
{
    private Solution()
    {
    }

    /// <summary>There is a solution, and this is the preferred one.</summary>
    /// <param name="Values">The value of every variable.</param>
    public sealed record Found(IReadOnlyList<int> Values) : Solution;

    /// <summary>There is none.</summary>
    /// <param name="Because">Given rules that no assignment keeps together.</param>
    public sealed record Impossible(IReadOnlyList<Rule> Because) : Solution;

    /// <summary>The bound on work was reached before it was known whether there is one.</summary>
    public sealed record GivenUp : Solution;
}
