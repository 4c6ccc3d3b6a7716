using AmberCrate.Engine.Sessions;

namespace AmberCrate.Engine.Bundling;

/// <summary>How a bundle stands to the catalogues.</summary>
/// <param name="Bundle">The bundle.</param>
/// <param name="Findings">What is to be said, the worst first.</param>
/// <param name="Freshness">How fresh the data of the catalogues are.</param>
public sealed record BundleCheck(OpenedBundle Bundle, IReadOnlyList<BundleFinding> Findings, DataFreshness Freshness)
{
    /// <summary>Whether some of it cannot be installed.</summary>
    public bool IsBroken => Findings.Any(finding =>
        finding.Kind is BundleFindingKind.NotOffered or BundleFindingKind.NotAsSealed);
}
