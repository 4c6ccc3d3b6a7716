using System.Diagnostics;
using AmberCrate.Core.Trials;
using AmberCrate.Core.Values;
using AmberCrate.Engine.Host;

namespace AmberCrate.Engine.Installers;

/// <summary>
/// Starts a program of an unpacked app under a display of its own, Xvfb, to see whether a window comes. Program and display are
/// confined as installers are; they share the folder of the display's socket and nothing else.
/// </summary>
/// <param name="confinement">How programs are confined.</param>
/// <param name="app">The folder with the app's files.</param>
/// <param name="mapped">What of it is laid over the system.</param>
/// <param name="system">The root of the system that it sees.</param>
public sealed class WindowTrial(Confinement confinement, string app, IReadOnlyList<InsidePath> mapped, string system)
{
    private const string Server = "Xvfb", Display = ":99", SocketName = "X99", SocketFolder = "/tmp/.X11-unix",
        SessionBus = "dbus-run-session";

    private const long MostBytes = 256 << 20;
    private const int KeptLines = 200;
    private static readonly TimeSpan Look = TimeSpan.FromMilliseconds(200), ServerTime = TimeSpan.FromSeconds(15),
        Settles = TimeSpan.FromSeconds(1);

    /// <summary>Why nothing can be started here; null where it can.</summary>
    /// <param name="confinement">How programs are confined.</param>
    public static string? Obstacle(Confinement confinement) => !confinement.IsConfined
        ? "bubblewrap is not there, or cannot confine programs here"
        : ProgramSearch.Trusted(Server) is null ? $"{Server} is not there" : null;

    /// <summary>Starts a program, and returns what was seen.</summary>
    /// <param name="program">The program, in the app's folder.</param>
    /// <param name="arguments">Its arguments.</param>
    /// <param name="time">For how long to wait for a window, or its end.</param>
    /// <param name="cancel">Ends it at once.</param>
    public async Task<TrialSight> RunAsync(
        InsidePath program, IReadOnlyList<string> arguments, TimeSpan time, CancellationToken cancel)
    {
        using var folder = WorkFolder.Make("start");
        var sockets = Path.Combine(folder.Path, "sockets");
        PrivateFolder.Make(sockets);
        using var end = CancellationTokenSource.CreateLinkedTokenSource(cancel);
        var server = Task.Run(
            () => Run(
                new ProgramCall(ProgramSearch.Trusted(Server)!,
                    [Display, "-screen", "0", "1280x800x24", "-nolisten", "tcp", "-ac"]),
                Place(folder.Path, "display", sockets, isApp: false), time + ServerTime, _ => { }, end.Token),
            CancellationToken.None);
        Task<ProgramEnd?>? running = null;
        try
        {
            using var display = await OpenAsync(Path.Combine(sockets, SocketName), server, cancel);
            var (lines, call) = (new Queue<string>(), Call(program, arguments));
            running = Task.Run(
                () => Run(call, Place(folder.Path, "app", sockets, isApp: true), time, Keep, end.Token), CancellationToken.None);
            var begun = Stopwatch.GetTimestamp();
            string? title = null;
            while (!running.IsCompleted && Stopwatch.GetElapsedTime(begun) < time && title is null)
            {
                await Task.WhenAny(running, Task.Delay(Look, cancel));
                title = display.FindWindow();
            }

            if (title is not null)
            {
                // A window that goes at once was none to work with; a title often comes a moment later.
                await Task.WhenAny(running, Task.Delay(Settles, cancel));
                title = running.IsCompleted ? null : display.FindWindow();
            }

            var ended = running.IsCompleted ? await running : null;
            await end.CancelAsync();
            await running;
            lock (lines)
                return new TrialSight(title, title is null ? ended?.ExitCode : null, (int)time.TotalSeconds, [.. lines]);

            void Keep(string line)
            {
                lock (lines)
                {
                    // Where the files are for the time of the trial says nothing to whoever reads this.
                    lines.Enqueue(line.Replace(app + "/", "", StringComparison.Ordinal));
                    if (lines.Count > KeptLines) lines.Dequeue();
                }
            }
        }
        finally
        {
            await end.CancelAsync();
            if (running is not null) await running;
            await server;
        }
    }

    private static async Task<XDisplay> OpenAsync(string socket, Task<ProgramEnd?> server, CancellationToken cancel)
    {
        var begun = Stopwatch.GetTimestamp();
        while (!server.IsCompleted && Stopwatch.GetElapsedTime(begun) < ServerTime)
        {
            if (File.Exists(socket) && XDisplay.TryOpen(socket) is { } display) return display;
            await Task.Delay(Look, cancel);
        }

        var said = server.IsCompleted && await server is { LastLines: [.., var last] } ? $": {last}" : "";
        throw new IOException($"{Server} did not start{said}");
    }

    /// <summary>Runs a program to its end; null where it was ended from here.</summary>
    private ProgramEnd? Run(ProgramCall call, ProgramPlace place, TimeSpan time, Action<string> say, CancellationToken end)
    {
        try
        {
            // It is ended by whoever looks for its window.
            var ended = confinement.Run(
                call, place, new ProgramLimits(time + ServerTime, MostBytes, [place.Own]), say, end);
            return ended.Refusal is null ? ended : null;
        }
        catch (OperationCanceledException)
        {
            return null;
        }
    }

    private ProgramCall Call(InsidePath program, IReadOnlyList<string> arguments)
    {
        var path = Path.Combine(app, program.Text);
        return new RootPath(system).Find($"/usr/bin/{SessionBus}") is null
            ? new ProgramCall(path, arguments)
            : new ProgramCall($"/usr/bin/{SessionBus}", ["--", path, .. arguments]);
    }

    private ProgramPlace Place(string work, string name, string sockets, bool isApp)
    {
        var own = Path.Combine(work, name);
        var (home, temporary, here) = (Path.Combine(own, "home"), Path.Combine(own, "tmp"), Path.Combine(own, "here"));
        foreach (var folder in new[] { own, home, temporary, here }) PrivateFolder.Make(folder);
        return new ProgramPlace(here, here, home, temporary, own)
        {
            Visible = isApp ? app : null, Mapped = isApp ? mapped : [], System = isApp ? system : "/",
            Shared = (sockets, SocketFolder), IsDesktop = true,
            Variables =
            [
                ("DISPLAY", Display), ("XDG_RUNTIME_DIR", temporary), ("GDK_BACKEND", "x11"), ("QT_QPA_PLATFORM", "xcb"),
                ("SDL_VIDEODRIVER", "x11"), ("SDL_AUDIODRIVER", "dummy"), ("NO_AT_BRIDGE", "1"), ("GSETTINGS_BACKEND", "memory"),
                ("LIBGL_ALWAYS_SOFTWARE", "1"),
            ],
        };
    }
}
