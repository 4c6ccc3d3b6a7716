using AmberCrate.Cli.Terminal;
using AmberCrate.Cli.Texts;
using AmberCrate.Core.Problems;
using AmberCrate.Core.Runs;
using AmberCrate.Engine.Sessions;

namespace AmberCrate.Cli.Running;

/// <summary>How a run ended, as a JSON file for the record.</summary>
internal sealed record RunReportDocument(
    string Machine, string Time, string Command, long? Run, bool Interrupted, int? ExitCode, double Seconds,
    IReadOnlyList<ItemReportDocument> Items, int Format = DocumentFormat.Number)
{
    public static RunReportDocument FromResult(RunResult result, Session session)
    {
        var report = result.Report ?? RunReport.Foreseen(result.Plan.Solved);
        return new RunReportDocument(
            session.Host.MachineName, PlainText.Time(session.Host.Clock.GetUtcNow()), session.Request.CommandLine, report.Number,
            report.Interrupted, result.Report is null ? null : ExitCodes.ForReport(report),
                Math.Round(report.Took.TotalSeconds, 3),
            [.. report.Items.Select(item => ItemReportDocument.FromReport(item, CallOptions.None))]);
    }
}
