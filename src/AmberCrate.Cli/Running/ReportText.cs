using System.Text;
using AmberCrate.Cli.Tables;
using AmberCrate.Cli.Terminal;
using AmberCrate.Cli.Texts;
using AmberCrate.Core.Runs;
using AmberCrate.Engine.Sessions;

namespace AmberCrate.Cli.Running;

/// <summary>Writes how a run ended as a file for the record.</summary>
internal static class ReportText
{
    private const string Special = "\\`*_[]<>|&";

    /// <summary>As a JSON document.</summary>
    public static string Json(RunResult result, Session session, DocumentWriter documents)
    {
        var bytes = new System.Buffers.ArrayBufferWriter<byte>();
        documents.WriteDocument(bytes, RunReportDocument.FromResult(result, session));
        return Encoding.UTF8.GetString(bytes.WrittenSpan) + "\n";
    }

    /// <summary>As Markdown with one table.</summary>
    public static string Markdown(RunResult result, Session session)
    {
        var report = result.Report ?? RunReport.Foreseen(result.Plan.Solved);
        var text = new StringBuilder();
        text.Append($"# {Plain(session.Host.MachineName)}: {Verdict(result)}\n\n");
        text.Append($"{Plain(session.Request.CommandLine)}  \n");
        text.Append($"{PlainText.Time(session.Host.Clock.GetUtcNow())}"
            + $"{(report.Number is { } number ? $", run {number}" : "")}\n\n");
        text.Append("| outcome | app | from | to | reason |\n|---|---|---|---|---|\n");
        foreach (var item in report.Items)
            text.Append(
                $"| {WordOf(result, item)} | {Plain(item.Item.Id)} | {Plain(item.Item.From?.Text)} | {Plain(item.Item.To?.Text)} "
                    + $"| {Plain(ReasonOf(item))} |\n");
        return text.ToString();
    }

    /// <summary>How it ended, in a few words.</summary>
    public static string Verdict(RunResult result)
    {
        if (result.End is RunEnd.CalledOff) return "called off, nothing was changed";
        var report = result.Report ?? RunReport.Foreseen(result.Plan.Solved);
        var counts = string.Join(", ", report.Items.GroupBy(item => item.Outcome).OrderBy(group => group.Key)
            .Select(group => $"{group.Count()} {OutcomeWords.Outcomes.WordOf(group.Key)}"));
        var verdict = counts.Length == 0 ? "nothing to do" : counts;
        return result.Report is null ? $"only planned: {verdict}" : report.Interrupted ? $"stopped: {verdict}" : verdict;
    }

    /// <summary>The word for how an item ended, or would.</summary>
    public static string WordOf(RunResult result, ItemReport item) =>
        result.Report is null && item.Item.Changes ? Words.WordFor(item.Item.Action) : OutcomeWords.Outcomes.WordOf(item.Outcome);

    /// <summary>Why an item ended as it did; may be empty.</summary>
    public static string ReasonOf(ItemReport item) => item.Problem is { } problem
        ? $"{problem.What}{(problem.Why.Length > 0 ? $" ({problem.Why})" : "")}"
        : string.Join("; ", item.Notes.Prepend(item.Item.Note.ToString()).Where(note => note.Length > 0));

    /// <summary>A text that Markdown shows as it is.</summary>
    private static string Plain(string? text)
    {
        var plain = new StringBuilder();
        foreach (var c in Printable.Line(text ?? ""))
        {
            if (Special.Contains(c, StringComparison.Ordinal)) plain.Append('\\');
            plain.Append(c);
        }

        return plain.ToString();
    }
}
