using System.ComponentModel;
using System.Diagnostics;
using System.Text;
using AmberCrate.Core.Values;
using AmberCrate.Engine.Host;

namespace AmberCrate.Engine.Installers;

/// <summary>Runs foreign programs as far away from the person's own things as the machine allows.</summary>
/// <param name="searchPath">The value of PATH.</param>
public sealed class Confinement(string searchPath)
{
    private const string PlainPath = "/usr/local/bin:/usr/bin:/bin:/usr/sbin:/sbin";
    private const int MostLines = 20_000, KeptLines = 4, LongestLine = 2000;
    private const long LeastFree = 64 << 20;
    private static readonly TimeSpan Look = TimeSpan.FromMilliseconds(200), Grace = TimeSpan.FromSeconds(5),
        TrialTime = TimeSpan.FromSeconds(10);

    private readonly string? _setsid = ProgramSearch.Find("setsid", searchPath);
    private readonly Lazy<string?> _bwrap =
        new(() => ProgramSearch.Find("bwrap", searchPath) is { } found && Works(found) ? found : null);

    /// <summary>Whether programs are confined.</summary>
    public bool IsConfined => _bwrap.Value is not null;

    /// <summary>Runs a program to its end, or to the end of what it is allowed. Nothing that it has started lives on.</summary>
    /// <param name="program">The program.</param>
    /// <param name="arguments">Its arguments.</param>
    /// <param name="place">Where it runs.</param>
    /// <param name="limits">What it is allowed.</param>
    /// <param name="say">Is told every line that it writes, as far as they are not too many.</param>
    /// <param name="cancel">Ends it at once.</param>
    /// <exception cref="OperationCanceledException">It was ended.</exception>
    public ProgramEnd Run(
        string program,
        IReadOnlyList<string> arguments,
        ProgramPlace place,
        ProgramLimits limits,
        Action<string> say,
        CancellationToken cancel)
    {
        var start = Start(program, arguments, place);
        var output = new Lines(say);
        Process process;
        try
        {
            process = Process.Start(start)!;
        }
        catch (Win32Exception fault)
        {
            return new ProgramEnd(-1, $"it cannot be started: {fault.Message}", []);
        }

        using (process)
        {
            process.StandardInput.Close();
            Task[] readers =
            [
                Task.Run(() => output.Take(process.StandardOutput), CancellationToken.None),
                Task.Run(() => output.Take(process.StandardError), CancellationToken.None),
            ];
            var refusal = Wait(process, limits, cancel);
            // setsid(1) has given it a session of its own; bwrap(1) does so out of sight, and ends all of its own by itself.
            var family = new ProgramFamily(place.Own, !IsConfined && _setsid is not null ? process.Id : null);
            if (refusal is not null) family.Terminate();
            if (!process.HasExited) process.Kill(entireProcessTree: true);
            family.Kill();
            process.WaitForExit(Grace);
            Task.WaitAll(readers, (int)Grace.TotalMilliseconds, CancellationToken.None);
            cancel.ThrowIfCancellationRequested();
            return new ProgramEnd(refusal is null ? process.ExitCode : -1, refusal, output.Last);
        }
    }

    private ProcessStartInfo Start(string program, IReadOnlyList<string> arguments, ProgramPlace place)
    {
        List<string> words = _bwrap.Value is { } bwrap
            ?
            [
                bwrap, "--unshare-all", "--die-with-parent", "--new-session", "--ro-bind", "/", "/", "--dev", "/dev", "--proc",
                "/proc", "--tmpfs", "/tmp", .. HideHome(place),
                .. place.Visible is { } visible ? (string[])["--ro-bind", visible, visible] : [],
                "--bind", place.Own, place.Own, "--bind", place.Folder, place.SeenAs, "--chdir", place.SeenAs, "--", program,
            ]
            : _setsid is null ? [program] : [_setsid, "--wait", program];
        var start = new ProcessStartInfo(words[0], [.. words[1..], .. arguments])
        {
            RedirectStandardInput = true, RedirectStandardOutput = true, RedirectStandardError = true, UseShellExecute = false,
            WorkingDirectory = place.Folder,
        };
        start.Environment.Clear();
        foreach (var (name, value) in Variables(place)) start.Environment[name] = value;
        return start;
    }

    private static IEnumerable<(string Name, string Value)> Variables(ProgramPlace place) =>
    [
        ("PATH", PlainPath), ("HOME", place.Home), ("TMPDIR", place.Temporary), ("LANG", "C.UTF-8"), ("LC_ALL", "C.UTF-8"),
        (ProgramFamily.Mark, place.Own),
    ];

    /// <summary>The person's own files are not even to be seen.</summary>
    private static string[] HideHome(ProgramPlace place)
    {
        var home = Environment.GetEnvironmentVariable("HOME");
        return home is { Length: > 1 }
            && Path.IsPathFullyQualified(home)
            && Directory.Exists(home)
            && !home.StartsWith("/tmp", StringComparison.Ordinal)
            && !place.Own.Equals(home, StringComparison.Ordinal) ? ["--tmpfs", home] : [];
    }

    /// <summary>Waits for the end; tells why it did not wait for it.</summary>
    private static string? Wait(Process process, ProgramLimits limits, CancellationToken cancel)
    {
        var begun = Stopwatch.GetTimestamp();
        while (!process.WaitForExit(Look))
        {
            if (cancel.IsCancellationRequested) return "the run was stopped";
            if (Stopwatch.GetElapsedTime(begun) > limits.Time)
                return $"it had not ended after {limits.Time.TotalSeconds:0} seconds";
            if (limits.Folders.Sum(SizeOf) > limits.Bytes) return $"it has written more than {ByteSize.Words(limits.Bytes)}";
            if (new DriveInfo(limits.Folders[0]).AvailableFreeSpace < LeastFree) return "the disk is nearly full";
        }

        return null;
    }

    /// <summary>Ends what programs have left running whose own acrate was ended before it could do so.</summary>
    /// <param name="own">The folder that held them.</param>
    public static void EndLeftover(string own) => new ProgramFamily(own, session: null).Kill();

    private static long SizeOf(string folder)
    {
        try
        {
            return Directory.Exists(folder) ? new DirectoryInfo(folder).EnumerateFiles("*", SearchOption.AllDirectories)
                .Sum(file => file.LinkTarget is null ? file.Length : 0) : 0;
        }
        catch (Exception changing) when (changing is IOException or UnauthorizedAccessException)
        {
            return 0;
        }
    }

    private static bool Works(string bwrap)
    {
        try
        {
            using var trial = Process.Start(new ProcessStartInfo(bwrap,
            [
                "--unshare-all", "--ro-bind", "/", "/", "--dev", "/dev", "--proc", "/proc", "true",
            ])
            { RedirectStandardError = true, RedirectStandardOutput = true, UseShellExecute = false })!;
            if (trial.WaitForExit(TrialTime)) return trial.ExitCode == 0;
            trial.Kill();
            return false;
        }
        catch (Win32Exception)
        {
            return false;
        }
    }

    /// <summary>What a program writes: passed on line by line up to a limit, and the last of it kept.</summary>
    private sealed class Lines(Action<string> say)
    {
        private readonly Queue<string> _last = new();
        private int _count;

        public IReadOnlyList<string> Last
        {
            get
            {
                lock (_last) return [.. _last];
            }
        }

        public void Take(StreamReader reader)
        {
            try
            {
                var line = new StringBuilder();
                var buffer = new char[4096];
                for (int read; (read = reader.Read(buffer)) > 0;)
                {
                    foreach (var letter in buffer.AsSpan(0, read))
                    {
                        if (letter is '\n' or '\r') Add(line);
                        else if (line.Length < LongestLine) line.Append(letter);
                    }
                }

                Add(line);
            }
            catch (Exception gone) when (gone is IOException or ObjectDisposedException)
            {
                // The program has closed it, or was ended.
            }
        }

        private void Add(StringBuilder line)
        {
            var text = line.ToString().Trim();
            line.Clear();
            if (text.Length == 0) return;
            lock (_last)
            {
                _last.Enqueue(text.Length > 200 ? text[..200] + "…" : text);
                if (_last.Count > KeptLines) _last.Dequeue();
                if (++_count < MostLines) say(text);
                else if (_count == MostLines) say("more lines than these are not kept");
            }
        }
    }
}
