using System.Text.Json.Serialization;
using AmberCrate.Cli.Shared;
using AmberCrate.Cli.Terminal;
using AmberCrate.Core.Due;
using AmberCrate.Core.Problems;
using AmberCrate.Core.Runs;
using AmberCrate.Engine.Sessions;

namespace AmberCrate.Cli.Running;

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
    [JsonIgnore(Condition = JsonIgnoreCondition.WhenWritingNull)]
    public IReadOnlyList<StillDueDocument>? StillDue { get; private init; }

    public IReadOnlyList<string> Remains { get; private init; } = [];

    [JsonIgnore(Condition = JsonIgnoreCondition.WhenWritingNull)]
    public ProblemDocument? Unclosed { get; private init; }

    public static EndsEvent FromResult(RunResult result, CallOptions call) => FromReport(result.Report!, call) with
    {
        StillDue = result.StillDue is null ? null : [.. result.StillDue.Select(entry => new StillDueDocument(
            entry.App.Id.Text, entry.Version.Text, (entry.Available ?? entry.Newer)?.Release.Version.Text,
            DueWords.States.WordOf(entry.State)))],
        Remains = [.. result.Remains.Select(other => other.Words)],
    };

    private static EndsEvent FromReport(RunReport report, CallOptions call) => new(
        "ends", report.Interrupted, ExitCodes.ForReport(report), report.Number, report.Log,
            Math.Round(report.Took.TotalSeconds, 3),
        [.. report.Items.Select(item => ItemReportDocument.FromReport(item, call))])
    {
        Unclosed = report.Unclosed is { } unclosed ? ProblemDocument.FromProblem(unclosed, call) : null,
    };
}

/// <summary>An app that is still due after an upgrade, as JSON.</summary>
internal sealed record StillDueDocument(string Id, string Version, string? Available, string State);
