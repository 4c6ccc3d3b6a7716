using AmberCrate.Core.Machine;
using AmberCrate.Core.Plans;

namespace AmberCrate.Engine.Runs;

/// <summary>What decides about a plan in addition to the folders that it writes to.</summary>
/// <param name="Rights">Which rights it takes.</param>
/// <param name="Expired">The catalogues of its items whose signatures have expired.</param>
/// <param name="InBothScopes">Apps of the other scope that it installs in this one.</param>
/// <param name="FirstOnPath">The folder of commands that a shell looks into first; null where that is none of the two.</param>
public sealed record PlanCircumstances(
    RightsNeed Rights, IReadOnlyList<ExpiredCatalogue> Expired, IReadOnlyList<InstalledApp> InBothScopes, string? FirstOnPath);
