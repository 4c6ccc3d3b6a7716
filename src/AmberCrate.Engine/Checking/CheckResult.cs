using AmberCrate.Engine.Inspecting;

namespace AmberCrate.Engine.Checking;

/// <summary>What a check has found.</summary>
/// <param name="Findings">The findings, the worst first.</param>
/// <param name="Apps">How many apps were looked at.</param>
/// <param name="IsDeep">Whether the content of every file was read.</param>
public sealed record CheckResult(IReadOnlyList<Finding> Findings, int Apps, bool IsDeep)
{
    /// <summary>Whether something does not work.</summary>
    public bool IsBroken => Findings.Any(finding => finding.Weight == FindingWeight.Broken);
}
