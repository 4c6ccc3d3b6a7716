using AmberCrate.Core.Problems;
using AmberCrate.Core.Runs;

namespace AmberCrate.Cli.Documents;

/// <summary>A run has ended, as a line of JSON.</summary>
internal sealed record EndsEvent(
    string Event,
    bool Interrupted,
    int ExitCode,
    long? Run,
    string? Log,
    double Seconds,
    IReadOnlyList<ItemReportDocument> Items,
    int Format = DocumentFormat.Number)
{
    public static EndsEvent Of(RunReport report, CallOptions call) => new(
        "ends", report.Interrupted, ExitCodes.Of(report), report.Number, report.Log, Math.Round(report.Took.TotalSeconds, 3),
        [.. report.Items.Select(item => ItemReportDocument.Of(item, call))]);
}
