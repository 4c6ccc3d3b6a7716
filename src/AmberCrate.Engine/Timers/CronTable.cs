using AmberCrate.Core.Problems;
using AmberCrate.Engine.Host;

namespace AmberCrate.Engine.Timers;

/// <summary>A user's table of cron, which has lines of their own too: what cannot be read is not written.</summary>
/// <param name="program">The path of crontab(1); null where there is none.</param>
internal sealed class CronTable(string? program)
{
    private static readonly TimeSpan Patience = TimeSpan.FromSeconds(10);

    /// <summary>Replaces the line that has its mark; all others stay as they are.</summary>
    /// <param name="mark">A comment that marks the line.</param>
    /// <param name="line">The line without its mark; null to take it out.</param>
    /// <exception cref="ProblemException">The table cannot be read or written; it is as it was.</exception>
    public void Set(string mark, string? line)
    {
        if (program is null) throw Fault("this machine has neither systemd nor cron").ToException();
        var before = Read(program);
        var lines = before.Split('\n').Where(known => !known.EndsWith(mark, StringComparison.Ordinal)).ToList();
        if (lines is [.., ""]) lines.RemoveAt(lines.Count - 1);
        if (line is not null) lines.Add($"{line} {mark}");
        var after = string.Concat(lines.Select(known => known + "\n"));
        if (after != before) Write(program, after);
    }

    /// <summary>Whether the table has a line with a mark. Without cron there is none.</summary>
    public bool Has(string mark) => program is not null
        && Read(program).Split('\n').Any(line => line.EndsWith(mark, StringComparison.Ordinal));

    private static string Read(string program)
    {
        var answer = SystemProgram.Ask(program, ["-l"], Patience);
        if (answer.Code == 0) return answer.Output;

        // It ends with 1 where the user has no table yet, and in other cases too: only its words tell.
        var isNone = answer.Errors.StartsWith("no crontab for", StringComparison.Ordinal)
            || answer.Errors.TrimEnd().EndsWith("No such file or directory", StringComparison.Ordinal);
        if (answer is { Code: 1, Output: "" } && isNone) return "";
        throw Fault($"crontab -l does not show the table: {FormatAnswer(answer)}").ToException();
    }

    private static void Write(string program, string text)
    {
        var file = Path.GetTempFileName();
        try
        {
            File.WriteAllText(file, text);
            if (SystemProgram.Ask(program, [file], Patience) is { Code: not 0 } failed)
                throw Fault($"crontab does not take the table: {FormatAnswer(failed)}").ToException();
        }
        finally
        {
            File.Delete(file);
        }
    }

    private static string FormatAnswer(ProgramAnswer answer) =>
        answer.Code is { } code ? $"it ended with {code}: {answer.Errors.Trim()}" : answer.Errors;

    private static Problem Fault(string why) => new(ProblemCode.StateNeedsAttention, "the table of cron cannot be changed", why);
}
