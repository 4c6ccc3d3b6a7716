using AmberCrate.Core.Due;
using AmberCrate.Core.Plans;
using AmberCrate.Core.Runs;
using AmberCrate.Core.Values;

namespace AmberCrate.Engine.Sessions;

/// <summary>What came of an operation that changes apps.</summary>
/// <param name="End">How far it has gone.</param>
/// <param name="Plan">The plan; empty where there is none.</param>
/// <param name="Digest">By what the plan is recognised.</param>
public sealed record RunResult(RunEnd End, SurveyedPlan Plan, Sha256Digest Digest)
{
    /// <summary>How the run ended; null where there was none.</summary>
    public RunReport? Report { get; init; }

    /// <summary>How to start what was installed; null where a shell finds it.</summary>
    public PathHint? Hint { get; init; }

    /// <summary>What others have put there of the adopted apps, and remains; none where nothing was adopted.</summary>
    public IReadOnlyList<Core.Machine.ObservedApp> Remains { get; init; } = [];

    /// <summary>What is still due once the machine has been read again; null where that was not asked for.</summary>
    public IReadOnlyList<DueEntry>? StillDue { get; init; }

    /// <summary>The number of the run that was looked at for the rest; null where none was.</summary>
    public long? Earlier { get; init; }
}
