using AmberCrate.Cli.Shared;
using AmberCrate.Engine.Searching;

namespace AmberCrate.Cli.Searching;

/// <summary>
/// What an app requires of the system, as JSON: how many things, which are lacking, and the line to install them.
/// </summary>
internal sealed record SystemDocument(int Required, IReadOnlyList<LackDocument> Lacks, string? InstallLine)
{
    public static SystemDocument? OfMaybe(SystemState? state) => state is null ? null
        : new SystemDocument(state.Required.Count, [.. state.Lacks.Select(LackDocument.FromLack)], state.InstallLine);
}
