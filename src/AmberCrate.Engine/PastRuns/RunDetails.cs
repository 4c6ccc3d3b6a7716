using AmberCrate.Core.Plans;
using AmberCrate.Engine.Catalogues;
using AmberCrate.Engine.Records;

namespace AmberCrate.Engine.PastRuns;

/// <summary>One run in full.</summary>
/// <param name="Run">The run with its items.</param>
/// <param name="Pins">The pins that it has changed.</param>
/// <param name="Catalogues">The catalogues that it has added and dropped.</param>
/// <param name="Logs">The files of its log; none where they are gone.</param>
/// <param name="Now">The time now.</param>
/// <param name="IsLeft">Whether anything of it is still to be done, as the machine is now.</param>
public sealed record RunDetails(
    RecordedRun Run, IReadOnlyList<PlannedPin> Pins, IReadOnlyList<(RegisteredCatalogue Catalogue, bool IsDropped)> Catalogues,
    IReadOnlyList<string> Logs, DateTimeOffset Now, bool IsLeft);
