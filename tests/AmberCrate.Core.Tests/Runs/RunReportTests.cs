using AmberCrate.Core.Plans;
using AmberCrate.Core.Problems;
using AmberCrate.Core.Runs;

namespace AmberCrate.Core.Tests.Runs;

public sealed class RunReportTests
{
    [Theory]
    [InlineData(null, "Done")]
    [InlineData(null, "Unchanged", "Pinned")]
    [InlineData(null, "Done", "Failed:Unreachable")]
    [InlineData(null, "Failed:Unreachable", "Failed:NotVerified")]
    [InlineData(ProblemCode.Unreachable, "Failed:Unreachable")]
    [InlineData(ProblemCode.Unreachable, "Failed:Unreachable", "Unchanged", "Failed:Unreachable")]
    [InlineData(ProblemCode.NotVerified, "Failed:NotVerified", "Skipped")]
    [InlineData(ProblemCode.NothingMatched, "NotOffered", "Unchanged")]
    [InlineData(null, "NotOffered", "Done")]
    public void A_run_has_a_sole_cause_only_where_nothing_was_done_and_all_failures_agree(
        ProblemCode? expected, params string[] items)
    {
        var reports = items.Select((text, number) =>
        {
            var parts = text.Split(':');
            var problem = parts.Length > 1 ? new Problem(Enum.Parse<ProblemCode>(parts[1]), "it failed") : null;
            return new ItemReport(
                new PlanItem { Id = $"app-{number}", Action = PlanAction.Install }, Enum.Parse<Outcome>(parts[0]), problem);
        }).ToList();
        var report = new RunReport(reports, Interrupted: false);
        report.SoleCause.ShouldBe(expected);
        report.Failures.Count()
            .ShouldBe(items.Count(item => item.StartsWith("Failed", StringComparison.Ordinal) || item == "NotOffered"));
    }
}
