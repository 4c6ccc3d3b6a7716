using System.Text.Json.Serialization;
using AmberCrate.Cli.Shared;
using AmberCrate.Core.Problems;
using AmberCrate.Core.Runs;

namespace AmberCrate.Cli.Running;

/// <summary>How an item of a run ended, as JSON.</summary>
internal sealed record ItemReportDocument : PlanItemDocument
{
    private ItemReportDocument(ItemReport report, CallOptions call)
        : base(report.Item, expected: null, call)
    {
        Outcome = OutcomeWords.Outcomes.WordOf(report.Outcome);
        Problem = ProblemDocument.OfMaybe(report.Problem, call);
        Notes = report.Notes;
    }

    /// <summary>The document of how an item ended.</summary>
    public static ItemReportDocument FromReport(ItemReport report, CallOptions call) => new(report, call);

    public string Outcome { get; }

    [JsonIgnore(Condition = JsonIgnoreCondition.WhenWritingNull)]
    public ProblemDocument? Problem { get; }

    public IReadOnlyList<string> Notes { get; }
}
