using AmberCrate.Core.Plans;
using AmberCrate.Core.Problems;

namespace AmberCrate.Core.Runs;

/// <summary>How a run ended.</summary>
/// <param name="Items">Its items, in the order of the plan.</param>
/// <param name="Interrupted">Whether a user stopped it.</param>
public sealed record RunReport(IReadOnlyList<ItemReport> Items, bool Interrupted)
{
    /// <summary>The number of the run; null where it is not on record.</summary>
    public long? Number { get; init; }

    /// <summary>The log of the run; null where there is none.</summary>
    public string? Log { get; init; }

    /// <summary>Why its record could not be closed, although the items ended as reported; null if it was.</summary>
    public Problem? Unclosed { get; init; }

    /// <summary>How long the run took.</summary>
    public TimeSpan Took { get; init; }

    /// <summary>How a run of a plan would end, as far as it can be known before it: what is planned is done.</summary>
    public static RunReport Foreseen(Plan plan) => new([.. plan.Items.Select(item => item.Changes
        ? new ItemReport(item, Outcome.Done)
        : ItemReport.OfUntouched(item))], Interrupted: false);

    /// <summary>Items that did not end as asked.</summary>
    public IEnumerable<ItemReport> Failures =>
        Items.Where(item => item.Outcome.IsFailure());

    /// <summary>
    /// Where nothing was done and every failure has one and the same cause, that cause: a script can then tell a
    /// network that is down from a digest that is wrong. Null in every other case.
    /// </summary>
    public ProblemCode? SoleCause
    {
        get
        {
            var causes = Failures.Select(item => item.Problem?.Code ?? ProblemCode.NothingMatched).Distinct().ToList();
            return causes.Count == 1 && !Items.Any(item => item.Outcome.IsDone()) ? causes[0] : null;
        }
    }
}
