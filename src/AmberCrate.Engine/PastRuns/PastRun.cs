using AmberCrate.Core.Problems;
using AmberCrate.Engine.Records;

namespace AmberCrate.Engine.PastRuns;

/// <summary>Finds a run that the user has named.</summary>
internal static class PastRun
{
    /// <summary>A run that is on record.</summary>
    /// <exception cref="ProblemException">There is no such run.</exception>
    public static RecordedRun Require(RecordStore records, long number) => records.Run(number)
        ?? throw new Problem(
            ProblemCode.NothingMatched, $"there is no run {number} on record", remedy: NextCommand.Create("runs")).ToException();
}
