using AmberCrate.Engine.Records;

namespace AmberCrate.Engine.PastRuns;

/// <summary>The latest runs.</summary>
/// <param name="Runs">The runs with the counts of their outcomes, the latest first.</param>
/// <param name="Count">How many there are in all.</param>
/// <param name="Now">The time now.</param>
public sealed record RunsResult(IReadOnlyList<RecordedRun> Runs, long Count, DateTimeOffset Now)
{
    /// <summary>The number of the first run that is still on record; 0 for none.</summary>
    public long First { get; init; }
}
