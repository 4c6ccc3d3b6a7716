using AmberCrate.Engine.Drafting;

namespace AmberCrate.Engine.Publishing;

/// <summary>What was found in cards.</summary>
/// <param name="Cards">How many cards were looked at.</param>
/// <param name="Findings">Faults and warnings, in the order of files and lines.</param>
public sealed record CardsChecked(int Cards, IReadOnlyList<CardFinding> Findings)
{
    /// <summary>What came of starting programs, if that was asked for.</summary>
    public IReadOnlyList<CardTrial> Trials { get; init; } = [];

    /// <summary>How many of the findings are faults.</summary>
    public int Faults => Findings.Count(finding => finding.IsFault);
}
