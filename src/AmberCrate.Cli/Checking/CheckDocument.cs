using AmberCrate.Cli.Terminal;
using AmberCrate.Core.Problems;
using AmberCrate.Engine.Checking;
using AmberCrate.Engine.Inspecting;

namespace AmberCrate.Cli.Checking;

/// <summary>What a check has found, as JSON.</summary>
internal sealed record CheckDocument(
    bool Broken, int Apps, bool Deep, IReadOnlyList<FindingDocument> Findings, int Format = DocumentFormat.Number)
{
    public static CheckDocument FromResult(CheckResult result, CallOptions call) => new(
        result.IsBroken, result.Apps, result.IsDeep,
        [.. result.Findings.Select(finding => new FindingDocument(
            FindingWords.Kinds.WordOf(finding.Kind), FindingWords.Weights.WordOf(finding.Weight), finding.App, finding.What,
            finding.Remedy.IsEmpty ? null : finding.Remedy.In(call), finding.IsRepairable))]);
}

/// <summary>A finding, as JSON.</summary>
internal sealed record FindingDocument(string Kind, string Weight, string? App, string What, string? Remedy, bool Repairable);
