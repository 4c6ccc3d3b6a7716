using AmberCrate.Core.Requirements;

namespace AmberCrate.Engine.Searching;

/// <summary>What an app requires of the system, and what of it the system lacks.</summary>
/// <param name="Required">What it requires.</param>
/// <param name="Lacks">What of it is lacking.</param>
/// <param name="InstallLine">The line to paste that installs it; null where there is none.</param>
public sealed record SystemState(
    IReadOnlyList<SystemRequirement> Required, IReadOnlyList<SystemLack> Lacks, string? InstallLine);
