using System.Diagnostics;
using System.Globalization;
using System.Text;
using AmberCrate.Engine.SystemCalls;

namespace AmberCrate.Engine.Installers;

/// <summary>
/// A foreign program with all that it has started. Its members are recognised by a variable of their environment, and by their
/// session: the kernel shows no environment of a program that is just being put in the place of another (proc_pid_environ(5)),
/// so one that does this all the time would hardly ever be seen by the first alone.
/// </summary>
/// <param name="own">The folder that is theirs alone.</param>
/// <param name="session">The session that they were started in; null where they have none of their own.</param>
internal sealed class ProcessTree(string own, int? session)
{
    /// <summary>The variable that all of them inherit; it holds the folder.</summary>
    public const string Mark = "ACRATE_INSTALLER";

    /// <summary>How often in a row nobody must be seen before they are believed to be gone.</summary>
    private const int Looks = 2;

    private static readonly TimeSpan Grace = TimeSpan.FromSeconds(5), Pause = TimeSpan.FromMilliseconds(10);

    private readonly byte[] _variable = Encoding.UTF8.GetBytes($"{Mark}={own}\0");

    /// <summary>Asks all of them to end, and gives them five seconds for it.</summary>
    public void Terminate()
    {
        foreach (var member in Members()) Posix.Terminate(member);
        AwaitEnd(_ => { });
    }

    /// <summary>Ends all of them, and what they start meanwhile.</summary>
    public void Kill() => AwaitEnd(Posix.Kill);

    private void AwaitEnd(Action<int> still)
    {
        var begun = Stopwatch.GetTimestamp();
        for (var empty = 0; empty < Looks && Stopwatch.GetElapsedTime(begun) < Grace;)
        {
            var members = Members();
            empty = members.Count == 0 ? empty + 1 : 0;
            foreach (var member in members) still(member);
            if (empty < Looks) Thread.Sleep(Pause);
        }
    }

    private List<int> Members()
    {
        var found = new List<int>();
        foreach (var folder in Directory.EnumerateDirectories("/proc"))
        {
            if (int.TryParse(Path.GetFileName(folder), NumberStyles.None, CultureInfo.InvariantCulture, out var process)
                && IsMember(folder)) found.Add(process);
        }

        return found;
    }

    private bool IsMember(string folder)
    {
        try
        {
            return (session is { } its && IsAliveIn(its, File.ReadAllText(Path.Combine(folder, "stat"))))
                || File.ReadAllBytes(Path.Combine(folder, "environ")).AsSpan().IndexOf(_variable) >= 0;
        }
        catch (Exception gone) when (gone is IOException or UnauthorizedAccessException)
        {
            return false; // It has ended, or is somebody else's.
        }
    }

    /// <summary>
    /// Reads a line of proc_pid_stat(5): behind the name in brackets, which may hold anything, stand state, parent, group and
    /// session.
    /// </summary>
    private static bool IsAliveIn(int session, string line)
    {
        var fields = line[(line.LastIndexOf(')') + 1)..].Split(' ', StringSplitOptions.RemoveEmptyEntries);
        return fields.Length > 3
            && fields[0] is not ("Z" or "X")
            && int.TryParse(fields[3], NumberStyles.None, CultureInfo.InvariantCulture, out var its)
            && its == session;
    }
}
