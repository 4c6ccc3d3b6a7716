using System.Globalization;
using AmberCrate.Core.Problems;
using AmberCrate.Engine.Host;
using AmberCrate.Engine.Layout;
using AmberCrate.Engine.SystemCalls;

namespace AmberCrate.Engine.Runs;

/// <summary>
/// The one writer of a root. The kernel holds the lock (flock(2)), so it ends with its process, however that ends. The file
/// says who holds it.
/// </summary>
public sealed class RunLock : IDisposable
{
    private const UnixFileMode OwnerOnly = UnixFileMode.UserRead | UnixFileMode.UserWrite;

    private static readonly TimeSpan LastMoments = TimeSpan.FromSeconds(2);
    private static readonly TimeSpan Pause = TimeSpan.FromMilliseconds(100);

    private readonly MachineLayout _layout;
    private readonly string _command;
    private readonly TimeProvider _clock;
    private FileStream _file;

    private RunLock(FileStream file, MachineLayout layout, string command, TimeProvider clock) =>
        (_file, _layout, _command, _clock) = (file, layout, command, clock);

    /// <summary>Takes the lock.</summary>
    /// <param name="layout">The root.</param>
    /// <param name="command">What the holder is doing, for others to read.</param>
    /// <param name="clock">Tells since when.</param>
    /// <param name="timeout">How long to wait for another holder to give it back.</param>
    /// <param name="waits">Receives once who holds it, where there is a wait.</param>
    /// <exception cref="ProblemException">Another process holds it, or the folder cannot be written.</exception>
    public static RunLock Acquire(
        MachineLayout layout, string command, TimeProvider clock, TimeSpan timeout = default, Action<string>? waits = null)
    {
        var begun = clock.GetTimestamp();
        for (var isFirst = true; ; isFirst = false)
        {
            try
            {
                return Acquire(layout, command, clock);
            }
            catch (ProblemException held) when (held.Problem.Code == ProblemCode.Locked
                && clock.GetElapsedTime(begun) < (HolderIsGone(layout.LockFile) && timeout < LastMoments
                    ? LastMoments
                    : timeout))
            {
                if (isFirst && timeout > TimeSpan.Zero) waits?.Invoke(held.Problem.Why);
                Thread.Sleep(Pause);
            }
        }
    }

    private static RunLock Acquire(MachineLayout layout, string command, TimeProvider clock)
    {
        try
        {
            AtomicFile.MakeFolder(layout.StateFolder);

            // Whoever can open the file can hold the lock: nobody but its owner may.
            var file = new FileStream(layout.LockFile, new FileStreamOptions
            {
                Mode = FileMode.OpenOrCreate, Access = FileAccess.ReadWrite, Share = FileShare.ReadWrite,
                UnixCreateMode = OwnerOnly,
            });
            try
            {
                if (!Posix.Hold(file.SafeFileHandle, layout.LockFile)) throw Held(layout);
                if ((File.GetUnixFileMode(file.SafeFileHandle) & ~OwnerOnly) != 0)
                    File.SetUnixFileMode(file.SafeFileHandle, OwnerOnly);
                file.SetLength(0);
                RandomAccess.Write(file.SafeFileHandle, System.Text.Encoding.UTF8.GetBytes(
                    $"process {Environment.ProcessId} since {clock.GetLocalNow():yyyy-MM-dd HH:mm:ss}: {command}"), 0);
                return new RunLock(file, layout, command, clock);
            }
            catch
            {
                file.Dispose();
                throw;
            }
        }
        catch (Exception fault) when (IoProblems.IsExpected(fault))
        {
            throw IoProblems.ToProblem(fault, $"the state folder {layout.StateFolder} cannot be written").ToException(fault);
        }
    }

    /// <summary>Lets other commands work while this one waits for a server. <see cref="Retake"/> takes the lock again.</summary>
    public void Release() => Dispose();

    /// <summary>Takes the lock again.</summary>
    /// <param name="timeout">How long to wait for the current holder.</param>
    /// <exception cref="ProblemException">Another process still holds it after that time.</exception>
    public void Retake(TimeSpan timeout) => _file = Acquire(_layout, _command, _clock, timeout)._file;

    /// <summary>Gives the lock back. The file stays, empty: removing it could take it from under a new holder.</summary>
    public void Dispose()
    {
        _file.SetLength(0);
        Posix.Release(_file.SafeFileHandle);
        _file.Dispose();
    }

    private static ProblemException Held(MachineLayout layout) => new Problem(
        ProblemCode.Locked, "another run is changing this machine", ReadHolder(layout.LockFile),
        "wait until it has ended, then run the command again; --wait SECONDS does that").ToException();

    /// <summary>
    /// Whether the process that has written its name is no more: what still holds the lock is a child that it was just starting,
    /// and lets go of it at once.
    /// </summary>
    private static bool HolderIsGone(string path) =>
        Posix.ReadText(path).Split(' ') is ["process", var process, ..]
            && int.TryParse(process, NumberStyles.None, CultureInfo.InvariantCulture, out _)
            && !Directory.Exists($"/proc/{process}");

    private static string ReadHolder(string path)
    {
        var holder = Posix.ReadText(path);
        return holder.Length == 0 ? "its holder has not said who it is" : $"held by {holder}";
    }
}
