using AmberCrate.Cli.Terminal;
using AmberCrate.Cli.Texts;
using AmberCrate.Core.Comparing;
using AmberCrate.Engine.Comparing;

namespace AmberCrate.Cli.Comparing;

/// <summary>What a comparison has found, as JSON: one machine, or many with the worst first.</summary>
internal sealed record DifferencesDocument(
    string Wanted, bool Differs, IReadOnlyList<MachineDifferencesDocument> Machines, IReadOnlyList<UnreadableDocument> Unreadable,
    int Format = DocumentFormat.Number)
{
    public static DifferencesDocument FromResult(CompareResult result) => result.Fleet is { } fleet
        ? new DifferencesDocument(
            fleet.Wanted.Name, result.HasDifference, [.. fleet.Machines.Select(MachineDifferencesDocument.FromComparison)],
            [.. fleet.Unreadable.Select(side => new UnreadableDocument(side.Name, side.Fault!))])
        : new DifferencesDocument(
            result.Pair!.Wanted.Name, result.HasDifference, [MachineDifferencesDocument.FromComparison(result.Pair)], []);
}

/// <summary>What of one machine differs, as JSON.</summary>
internal sealed record MachineDifferencesDocument(
    string Name, string? Date, int Same, IReadOnlyList<DifferenceDocument> Differences)
{
    public static MachineDifferencesDocument FromComparison(Comparison comparison) => new(
        comparison.There.Name, comparison.There.Date is { } date ? PlainText.Date(date) : null, comparison.Same,
        [.. comparison.Differences.Select(one => new DifferenceDocument(
            DifferenceWords.Kinds.WordOf(one.Kind), one.App, one.Wanted?.Version?.Text, one.There?.Version?.Text, one.Words))]);
}

/// <summary>How an app differs, as JSON.</summary>
internal sealed record DifferenceDocument(string Kind, string App, string? Wanted, string? There, string Words);

/// <summary>A file that is no export, as JSON.</summary>
internal sealed record UnreadableDocument(string Name, string Fault);
