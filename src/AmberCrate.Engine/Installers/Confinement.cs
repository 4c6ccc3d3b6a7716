using System.ComponentModel;
using System.Diagnostics;
using AmberCrate.Engine.Host;
using AmberCrate.Engine.SystemCalls;

namespace AmberCrate.Engine.Installers;

/// <summary>
/// Runs foreign programs as far away from the machine as it can be done: see <see cref="ConfinedRoot"/>. Where that is not
/// possible they run only if the user says so, and never as root.
/// </summary>
public sealed class Confinement
{
    private const string PlainPath = "/usr/local/bin:/usr/bin:/bin:/usr/sbin:/sbin";
    private static readonly TimeSpan Look = TimeSpan.FromMilliseconds(200), Grace = TimeSpan.FromSeconds(5),
        TrialTime = TimeSpan.FromSeconds(10);

    private readonly string? _setsid = ProgramSearch.Trusted("setsid");
    private readonly Lazy<ConfinedRoot?> _root = new(() => ConfinedRoot.Find() is { } found && Works(found) ? found : null);

    /// <summary>Whether programs are confined.</summary>
    public bool IsConfined => _root.Value is not null;

    /// <summary>Whether programs that are not confined may run if the user says so: not with the rights of root.</summary>
    public static bool CanRunUnconfined => Posix.EffectiveUser() != 0;

    /// <summary>Runs a program to its end, or to the end of what it is allowed. Nothing that it has started lives on.</summary>
    /// <param name="call">The program.</param>
    /// <param name="place">Where it runs.</param>
    /// <param name="limits">What it is allowed.</param>
    /// <param name="say">Receives every line that it writes, up to a limit.</param>
    /// <param name="cancel">Ends it at once.</param>
    /// <exception cref="OperationCanceledException">It was ended.</exception>
    public ProgramEnd Run(
        ProgramCall call, ProgramPlace place, ProgramLimits limits, Action<string> say, CancellationToken cancel)
    {
        var (program, isAttended) = (call.Program, call.IsAttended);
        if (!IsConfined && !CanRunUnconfined) throw new InvalidOperationException("a foreign program would run as root");
        var isOwn = program.StartsWith(place.Own + "/", StringComparison.Ordinal);
        _root.Value?.GiveTo([.. place.Writable, .. isOwn ? [program] : (string[])[]]);
        var output = new ProgramOutput(say);
        Process process;
        try
        {
            process = Start([program, .. call.Arguments], place, limits.Bytes, isAttended);
        }
        catch (Win32Exception fault)
        {
            return new ProgramEnd(-1, $"it cannot be started: {fault.Message}", []);
        }

        using (process)
        {
            using var relay = isAttended ? new TerminalRelay(process) : null;
            if (relay is null) process.StandardInput.Close();
            Task[] readers =
            [
                relay?.Output ?? Task.Run(() => output.ReadFrom(process.StandardOutput), CancellationToken.None),
                Task.Run(() => output.ReadFrom(process.StandardError), CancellationToken.None),
            ];
            var refusal = Wait(process, limits, cancel);
            // setsid(1) has given it a session of its own; bwrap(1) does so out of sight, and ends all of its own by itself.
            var family = new ProcessTree(place.Own, !IsConfined && _setsid is not null ? process.Id : null);
            if (refusal is not null) family.Terminate();
            if (!process.HasExited) process.Kill(entireProcessTree: true);
            family.Kill();
            process.WaitForExit(Grace);
            Task.WaitAll(readers, (int)Grace.TotalMilliseconds, CancellationToken.None);
            cancel.ThrowIfCancellationRequested();
            return new ProgramEnd(refusal is null ? process.ExitCode : -1, refusal, output.Last);
        }
    }

    /// <summary>Ends what programs have left running whose own acrate was ended before it could do so.</summary>
    /// <param name="own">The folder that held them.</param>
    public static void EndLeftover(string own) => new ProcessTree(own, session: null).Kill();

    private Process Start(string[] program, ProgramPlace place, long mostBytes, bool isAttended)
    {
        // What a caller of ours has left open is none of its business.
        Posix.CloseOnStart();
        if (_root.Value is { } root)
        {
            using var filter = Posix.InheritedFile(SystemCallFilter.Bytes());
            var words = root.Words(program, place, mostBytes, filter.Descriptor);
            return Start(isAttended ? TerminalRelay.OnTerminal(words) : words, place.Folder, Variables(place));
        }

        string[] plain = _setsid is null ? program : [_setsid, "--wait", .. program];
        return Start(isAttended ? TerminalRelay.OnTerminal(plain) : plain, place.Folder, Variables(place));
    }

    private static Process Start(
        IReadOnlyList<string> words, string folder, IEnumerable<(string Name, string Value)> variables)
    {
        var start = new ProcessStartInfo(words[0], words.Skip(1))
        {
            RedirectStandardInput = true, RedirectStandardOutput = true, RedirectStandardError = true, UseShellExecute = false,
            WorkingDirectory = folder,
        };
        start.Environment.Clear();
        foreach (var (name, value) in variables) start.Environment[name] = value;
        return Process.Start(start)!;
    }

    private static IEnumerable<(string Name, string Value)> Variables(ProgramPlace place) =>
    [
        ("PATH", PlainPath), ("HOME", place.Home), ("TMPDIR", place.Temporary), ("LANG", "C.UTF-8"), ("LC_ALL", "C.UTF-8"),
        (ProcessTree.Mark, place.Own), .. place.Variables,
    ];

    /// <summary>Waits for the end; tells why it did not wait for it.</summary>
    private static string? Wait(Process process, ProgramLimits limits, CancellationToken cancel)
    {
        var begun = Stopwatch.GetTimestamp();
        var usage = new ProgramUsage(limits, process.Id);
        while (!process.WaitForExit(Look))
        {
            if (cancel.IsCancellationRequested) return "the run was stopped";
            if (Stopwatch.GetElapsedTime(begun) > limits.Time)
                return $"it had not ended after {limits.Time.TotalSeconds:0} seconds";
            if (usage.Excess() is { } excess) return excess;
        }

        return usage.FolderExcess();
    }

    private static bool Works(ConfinedRoot root)
    {
        try
        {
            using var filter = Posix.InheritedFile(SystemCallFilter.Bytes());
            using var trial = Start(root.Words(["true"], null, 1 << 20, filter.Descriptor), "/", [("PATH", PlainPath)]);
            trial.StandardInput.Close();
            if (trial.WaitForExit(TrialTime)) return trial.ExitCode == 0;
            trial.Kill();
            return false;
        }
        catch (Win32Exception)
        {
            return false;
        }
    }
}
