using AmberCrate.Core.Problems;
using AmberCrate.Core.Schedules;
using AmberCrate.Core.Values;
using AmberCrate.Engine.Host;
using AmberCrate.Engine.Sessions;
using AmberCrate.Engine.Timers;

namespace AmberCrate.Engine.Scheduling;

/// <summary>Sets, shows and clears what is done on a timer.</summary>
/// <param name="session">The session.</param>
public sealed class SetSchedule(Session session)
{
    /// <summary>Sets a schedule, and replaces the task's earlier one.</summary>
    /// <exception cref="ProblemException">It cannot be set; nothing has been changed.</exception>
    public IReadOnlyList<ScheduleEntry> Set(Schedule schedule)
    {
        using var station = new RootOpener(session).ToChangeAtOnce();
        RequireRootOnly();
        foreach (var path in new[] { schedule.Published, schedule.Keys }.OfType<string>()) RequireRootOnly(path);
        var file = new ScheduleFile(session.Layout);
        var before = file.Read();
        TimerUnits.RequireTime(schedule.At);

        // The settings first: a timer without them would start nothing.
        file.Write([.. before.Where(entry => entry.Schedule.Task != schedule.Task), new ScheduleEntry(schedule)]);
        try
        {
            Units().Set(schedule, text => session.Note(text));
        }
        catch
        {
            file.Write(before);
            throw;
        }

        return Shown();
    }

    /// <summary>Clears the schedule of a task, or of all.</summary>
    /// <param name="task">The task; null for all.</param>
    /// <exception cref="ProblemException">There is none.</exception>
    public IReadOnlyList<ScheduleEntry> Clear(ScheduledTask? task)
    {
        using var station = new RootOpener(session).ToChangeAtOnce();
        var file = new ScheduleFile(session.Layout);
        var gone = Shown().Where(entry => task is null || entry.Schedule.Task == task).ToList();
        if (gone.Count == 0)
            throw new Problem(
                ProblemCode.NothingMatched, task is { } one
                    ? $"{TaskWords.Tasks.WordOf(one)} is not on a timer"
                    : "nothing is on a timer").ToException();
        foreach (var entry in gone) Units().Clear(entry.Schedule.Task, text => session.Note(text));
        file.Write(file.Read().Where(entry => gone.TrueForAll(one => one.Schedule.Task != entry.Schedule.Task)));
        return Shown();
    }

    /// <summary>All schedules.</summary>
    public IReadOnlyList<ScheduleEntry> Show()
    {
        using var station = new RootOpener(session).ToRead();
        return Shown();
    }

    private IReadOnlyList<ScheduleEntry> Shown()
    {
        var units = Units();
        var settings = new ScheduleFile(session.Layout).Read().ToLookup(entry => entry.Schedule.Task);
        return [.. Enum.GetValues<ScheduledTask>()
            .Select(task => (Task: task, Entry: settings[task].LastOrDefault(), Timer: units.Installed(task)))
            .Where(one => one.Entry is not null || one.Timer is not null)
            .Select(one => (one.Entry ?? new ScheduleEntry(one.Timer!)) with
            {
                HasSettings = one.Entry is not null, HasTimer = one.Timer is not null,
                Next = one.Timer is null ? null : TimerUnits.NextOf((one.Entry?.Schedule ?? one.Timer).At),
                Places = one.Timer is null ? [] : units.FilesOf(one.Task),
            })];
    }

    /// <summary>A timer of the machine, or of root, starts this program as root: only root may be able to change it.</summary>
    /// <exception cref="ProblemException">Someone can.</exception>
    private void RequireRootOnly()
    {
        if (!RunsAsRoot()) return;
        var program = session.Host.FullPath(session.Host.Program[0]);
        if (RootOnlyPath.ChangeableIn(program) is { } changeable)
            throw new Problem(
                ProblemCode.Refused, $"the timer would run {program} as root", $"others than root can change {changeable}",
                "put acrate into /usr/local/bin as root, and call that one").ToException();
    }

    /// <summary>A timer of the machine, or of root, writes there, or reads a key there, as root.</summary>
    /// <exception cref="ProblemException">It is not there, or someone else can change it.</exception>
    private void RequireRootOnly(string path)
    {
        if (!Directory.Exists(path)) throw new Problem(ProblemCode.NothingMatched, $"there is no folder {path}").ToException();
        if (!RunsAsRoot()) return;
        if (RootOnlyPath.ChangeableIn(path) is { } changeable)
            throw new Problem(
                ProblemCode.Refused, $"the timer would work in {path} as root", $"others than root can change {changeable}",
                "set it as the user who publishes, without --all-users").ToException();
    }

    private bool RunsAsRoot() => session.Root is null
        && (session.Layout.Scope == InstallScope.AllUsers || !Rights.FolderRights.CanBeRaised);

    private TimerUnits Units()
    {
        List<string> words = [.. session.Host.Program];
        if (!Path.IsPathFullyQualified(words[0])) words[0] = session.Host.FullPath(words[0]);
        if (session.Layout.Scope == InstallScope.AllUsers) words.Add(CallOptions.AllUsersOption);
        if (session.Root is { } root) words.AddRange([CallOptions.RootOption, root]);
        return new TimerUnits(session.Layout, words, session.Root is null);
    }
}
