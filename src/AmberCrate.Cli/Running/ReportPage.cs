using System.Text;
using AmberCrate.Cli.Shared;
using AmberCrate.Cli.Texts;
using AmberCrate.Core.Runs;
using AmberCrate.Engine.Sessions;

namespace AmberCrate.Cli.Running;

/// <summary>Writes how a run ended as a page.</summary>
internal static class ReportPage
{
    /// <summary>The page.</summary>
    public static string Render(RunResult result, Session session)
    {
        var report = result.Report ?? RunReport.Foreseen(result.Plan.Solved);
        var body = new StringBuilder();
        body.Append($"<h1>{Page.Text(session.Host.MachineName)}</h1>\n");
        body.Append($"<p class=verdict>{Page.Text(ReportText.Verdict(result))}</p>\n");
        body.Append($"<p class=quiet>{Page.Text(session.Request.CommandLine)} · "
            + $"{PlainText.Time(session.Host.Clock.GetUtcNow())}"
            + $"{(report.Number is { } number ? $" · run {number}" : "")}</p>\n");
        body.Append("<div class=wide><table><thead><tr><th>Outcome<th>App<th>From<th>To<th>Reason</thead><tbody>\n");
        foreach (var item in report.Items)
            body.Append(
                $"<tr{(item.Outcome.IsFailure() ? " class=bad" : "")}><td>{Page.Text(ReportText.WordOf(result, item))}"
                    + $"<th scope=row>{Page.Text(item.Item.Id)}<td>{Page.Text(item.Item.From?.Text)}"
                    + $"<td>{Page.Text(item.Item.To?.Text)}<td>{Page.Text(ReportText.ReasonOf(item))}\n");
        body.Append("</tbody></table></div>\n");
        return Page.Render($"{session.Host.MachineName}: {ReportText.Verdict(result)}", body.ToString(), script: null);
    }
}
