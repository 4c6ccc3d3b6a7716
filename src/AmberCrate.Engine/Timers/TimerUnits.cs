using System.Text;
using AmberCrate.Core.Problems;
using AmberCrate.Core.Schedules;
using AmberCrate.Core.Values;
using AmberCrate.Engine.Archives;
using AmberCrate.Engine.Host;
using AmberCrate.Engine.Layout;
using AmberCrate.Engine.SystemCalls;

namespace AmberCrate.Engine.Timers;

/// <summary>
/// The timers that make the system start tasks: units of systemd, after systemd.timer(5) and systemd.service(5), or where that is
/// missing lines of cron.
/// </summary>
/// <param name="layout">Where everything lies.</param>
/// <param name="program">The words that start this program, with the options for this root and scope.</param>
/// <param name="isHome">Whether the machine's own timers are meant; otherwise only files below the root are written.</param>
public sealed class TimerUnits(MachineLayout layout, IReadOnlyList<string> program, bool isHome)
{
    private const string Mark = "# amber-crate: ";
    private static readonly TimeSpan Patience = TimeSpan.FromSeconds(10);

    /// <summary>Whether the system has timers of systemd.</summary>
    public bool HasSystemd => !isHome || ProgramSearch.Trusted("systemctl") is not null;

    /// <summary>The files of a task's timer.</summary>
    public IReadOnlyList<string> FilesOf(ScheduledTask task) => HasSystemd
        ? [Path.Combine(Folder, $"{NameOf(task)}.timer"), Path.Combine(Folder, $"{NameOf(task)}.service")]
        : [CronFile(task)];

    /// <summary>Writes a timer and starts it.</summary>
    /// <param name="schedule">The schedule.</param>
    /// <param name="say">Receives what does not work, although the timer is written.</param>
    /// <exception cref="ProblemException">It cannot be written, or its time is none.</exception>
    public void Set(Schedule schedule, Action<string> say)
    {
        if (!HasSystemd)
        {
            SetCron(schedule);
            return;
        }

        RequireTime(schedule.At);
        var name = NameOf(schedule.Task);
        Write($"{name}.service", ServiceOf(schedule.Task));
        Write($"{name}.timer", TimerOf(schedule));
        if (!isHome) return;
        Control(say, "daemon-reload");
        Control(say, "enable", "--now", $"{name}.timer");
    }

    /// <summary>Stops a timer and removes it.</summary>
    /// <param name="task">The task.</param>
    /// <param name="say">Receives what does not work.</param>
    public void Clear(ScheduledTask task, Action<string> say)
    {
        if (!HasSystemd)
        {
            ClearCron(task);
            return;
        }

        if (isHome) Control(say, "disable", "--now", $"{NameOf(task)}.timer");
        AtomicFile.Remove(FilesOf(task).Where(File.Exists));
        if (isHome) Control(say, "daemon-reload");
    }

    /// <summary>What the system's timer of a task says; null if there is none.</summary>
    public Schedule? Installed(ScheduledTask task)
    {
        if (!HasSystemd) return IsInCron(task) ? new Schedule(task, "") : null;
        var (timer, service) = (FilesOf(task)[0], FilesOf(task)[1]);
        if (!File.Exists(timer) || !File.Exists(service)) return null;
        var lines = Posix.Lines(timer);
        return new Schedule(task, Value("OnCalendar=") ?? "")
        {
            DelayMinutes = int.TryParse(Value("RandomizedDelaySec=")?.Replace("min", "", StringComparison.Ordinal), out var delay)
                ? delay : 0,
        };

        string? Value(string key) =>
            lines.FirstOrDefault(line => line.StartsWith(key, StringComparison.Ordinal))?[key.Length..];
    }

    private bool IsInCron(ScheduledTask task) => layout.Scope == InstallScope.AllUsers
        ? File.Exists(CronFile(task))
        : CronTable.Has($"{Mark}{TaskWords.Tasks.WordOf(task)}");

    /// <summary>When a time comes next, as systemd-analyze(1) says; null where it cannot be asked.</summary>
    public static string? NextOf(string at)
    {
        const string line = "Next elapse:";
        return Ask("systemd-analyze", ["calendar", "--iterations=1", at], out var text) == 0
            ? text.Split('\n').Select(found => found.Trim()).Where(found => found.StartsWith(line, StringComparison.Ordinal))
                .Select(found => found[line.Length..].Trim()).FirstOrDefault()
            : null;
    }

    private string Folder => layout.Scope == InstallScope.AllUsers
        ? Path.Combine(Path.GetDirectoryName(layout.ConfigFolder)!, "systemd", "system")
        : Path.Combine(layout.ConfigFolder, "systemd", "user");

    private static string NameOf(ScheduledTask task) => $"acrate-{TaskWords.Tasks.WordOf(task)}";

    /// <summary>Refuses a time that the system's timers do not know.</summary>
    /// <exception cref="ProblemException">The text is no calendar expression.</exception>
    public static void RequireTime(string at)
    {
        if (at.Any(char.IsControl)
            || at.Contains('%', StringComparison.Ordinal)) throw NoTime(at, "it has characters that no time has");
        if (Ask("systemd-analyze", ["calendar", at], out var text) is > 0) throw NoTime(at, text.Split('\n')[0]);
    }

    private static ProblemException NoTime(string at, string why) => new Problem(
        ProblemCode.BadCommandLine, $"--at \"{at}\" is not a time", why,
        "use a calendar expression of systemd such as daily, Mon..Fri 03:30 or *-*-01 05:00").ToException();

    private string ServiceOf(ScheduledTask task) => $"""
        {Mark}made by acrate schedule set; acrate schedule clear {TaskWords.Tasks.WordOf(task)} removes it.
        [Unit]
        Description=Amber Crate: {TaskWords.Tasks.WordOf(task)}
        Documentation=man:acrate-schedule-set(1)
        {(layout.Scope == InstallScope.AllUsers ? "Wants=network-online.target\nAfter=network-online.target\n" : "")}
        [Service]
        Type=oneshot
        ExecStart={Command(task)}
        Nice=10
        """.Replace("\n\n\n", "\n\n", StringComparison.Ordinal) + "\n";

    private static string TimerOf(Schedule schedule) => $"""
        {Mark}made by acrate schedule set; acrate schedule clear {TaskWords.Tasks.WordOf(schedule.Task)} removes it.
        [Unit]
        Description=Amber Crate: {TaskWords.Tasks.WordOf(schedule.Task)}, on a timer

        [Timer]
        OnCalendar={schedule.At}
        RandomizedDelaySec={schedule.DelayMinutes}min
        Persistent=true

        [Install]
        WantedBy=timers.target

        """;

    /// <summary>The command as systemd.service(5) and sh(1) read it.</summary>
    private string Command(ScheduledTask task) => string.Join(' ', Words(task).Select(Quoted));

    private IEnumerable<string> Words(ScheduledTask task) => [.. program, "schedule", "run", TaskWords.Tasks.WordOf(task)];

    private static string Quoted(string word) =>
        word.All(c => char.IsAsciiLetterOrDigit(c) || c is '/' or '-' or '_' or '.' or '+' or ':' or '=' or '@') ? word
        : $"\"{word.Replace("\\", "\\\\", StringComparison.Ordinal).Replace("\"", "\\\"", StringComparison.Ordinal)
            .Replace("%", "%%", StringComparison.Ordinal).Replace("$", "$$", StringComparison.Ordinal)}\"";

    private void Write(string name, string text) =>
        AtomicFile.Write(Path.Combine(Folder, name), Encoding.UTF8.GetBytes(text), FolderFiller.PlainMode);

    private void Control(Action<string> say, params string[] arguments)
    {
        string[] whose = layout.Scope == InstallScope.AllUsers ? [] : ["--user"];
        if (Ask("systemctl", [.. whose, .. arguments], out var text) is var code and not 0)
            say($"systemctl {string.Join(' ', whose.Concat(arguments))} ended with {code}: {text.Split('\n')[0].Trim()}");
    }

    private string CronFile(ScheduledTask task) => layout.Scope == InstallScope.AllUsers
        ? Path.Combine(Path.GetDirectoryName(Path.GetDirectoryName(layout.ConfigFolder)!)!, "etc", "cron.d", NameOf(task))
        : "the table of crontab(1)";

    private void SetCron(Schedule schedule)
    {
        var fields = CronLine.Translate(schedule.At) ?? throw new Problem(
            ProblemCode.Refused, $"cron cannot say \"{schedule.At}\"", "this machine has no systemd, so cron is used",
            "use a time of a day, with days of the week or of the month, such as Mon..Fri 03:30").ToException();
        var delay = schedule.DelayMinutes > 0 ? $"sleep $(shuf -i 0-{schedule.DelayMinutes * 60} -n 1); " : "";
        var command = delay + string.Join(' ', Words(schedule.Task).Select(ShellWord.Quote));
        command = command.Replace("%", "\\%", StringComparison.Ordinal);
        var mark = $"{Mark}{TaskWords.Tasks.WordOf(schedule.Task)}";
        if (layout.Scope == InstallScope.AllUsers)
        {
            AtomicFile.Write(
                CronFile(schedule.Task), Encoding.UTF8.GetBytes($"{mark}\n{fields} root {command}\n"), FolderFiller.PlainMode);
            return;
        }

        CronTable.Set(mark, $"{fields} {command}");
    }

    private void ClearCron(ScheduledTask task)
    {
        if (layout.Scope == InstallScope.AllUsers) AtomicFile.Remove(FilesOf(task).Where(File.Exists));
        else CronTable.Set($"{Mark}{TaskWords.Tasks.WordOf(task)}", null);
    }

    private static CronTable CronTable => new(ProgramSearch.Trusted("crontab"));

    /// <summary>Runs a program of the system; null where it is not there, or has not ended.</summary>
    private static int? Ask(string name, IReadOnlyList<string> arguments, out string text)
    {
        text = "";
        if (ProgramSearch.Trusted(name) is not { } path) return null;
        var answer = SystemProgram.Ask(path, arguments, Patience);
        text = answer.Output + answer.Errors;
        return answer.Code;
    }
}
