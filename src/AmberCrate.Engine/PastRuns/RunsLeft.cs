using AmberCrate.Core.Machine;
using AmberCrate.Core.Plans;
using AmberCrate.Core.Problems;
using AmberCrate.Core.Runs;
using AmberCrate.Engine.Records;
using AmberCrate.Engine.Sessions;

namespace AmberCrate.Engine.PastRuns;

/// <summary>
/// The items of earlier runs that a retry would carry out, or would report as not available. Retry, check and the list of
/// runs ask here.
/// </summary>
/// <param name="records">The records.</param>
/// <param name="catalogues">What is offered now.</param>
/// <param name="machine">What is on the machine now.</param>
internal sealed class RunsLeft(RecordStore records, KnownCatalogues catalogues, MachineState machine)
{
    /// <summary>The items that are left of one run.</summary>
    /// <exception cref="ProblemException">A record cannot be read.</exception>
    public IReadOnlyList<RecordedItem> Find(RecordedRun run)
    {
        var left = records.LeftOf(run, machine);
        if (left.Count == 0) return left;
        try
        {
            var open = new RunRetry(machine, catalogues.Offers()).Plan(left).Items
                .Where(item => item.Changes || item.Action == PlanAction.Cannot).Select(item => item.Id)
                .ToHashSet(StringComparer.Ordinal);
            return [.. left.Where(item => open.Contains(item.Reference.Name))];
        }
        catch (ProblemException)
        {
            // A retry says why it cannot be done.
            return left;
        }
    }

    /// <summary>The latest runs that left something, the latest first, each with the items that it left.</summary>
    /// <exception cref="ProblemException">A record cannot be read.</exception>
    public IEnumerable<(RecordedRun Run, IReadOnlyList<RecordedItem> Left)> All() =>
        records.RunsNotEnded().Select(run => (run, Find(run))).Where(one => one.Item2.Count > 0);
}
