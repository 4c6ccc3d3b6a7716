using System.Runtime.InteropServices;
using System.Text;

namespace AmberCrate.Engine.Host;

/// <summary>The few calls of POSIX that the framework does not offer as they are needed here.</summary>
internal static partial class Posix
{
    /// <summary>Types of files, by their numbers in inode(7).</summary>
    public enum FileType
    {
        /// <summary>A pipe.</summary>
        Pipe = 0x1000,

        /// <summary>A character device, such as a terminal.</summary>
        CharacterDevice = 0x2000,

        /// <summary>A regular file.</summary>
        Regular = 0x8000,

        /// <summary>A socket.</summary>
        Socket = 0xc000,
    }

    private const int StatSize = 256, HereUnlessAbsolute = -100;

    /// <summary>O_DIRECTORY | O_CLOEXEC. ARM has a number of its own for the first (asm/fcntl.h).</summary>
    private static readonly int ReadOnlyFolder =
        (RuntimeInformation.ProcessArchitecture is Architecture.Arm64 or Architecture.Arm ? 0x4000 : 0x10000) | 0x80000;

    /// <summary>rename(2): replaces the target in one step, whatever it is, links included.</summary>
    public static void Rename(string from, string to)
    {
        if (RenameCall(from, to) != 0) throw Failed($"cannot rename to {to}");
    }

    /// <summary>link(2): a second name for a file.</summary>
    public static void Link(string existing, string added)
    {
        if (LinkCall(existing, added) != 0) throw Failed($"cannot link {added}");
    }

    /// <summary>fsync(2) on a folder, so that a rename in it survives a power loss.</summary>
    public static void FlushFolder(string folder)
    {
        var handle = OpenCall(folder, ReadOnlyFolder);
        if (handle < 0) throw Failed($"cannot open {folder}");
        try
        {
            // Some file systems do not know this for folders; then there is nothing to do.
            _ = SyncCall(handle);
        }
        finally
        {
            _ = CloseCall(handle);
        }
    }

    /// <summary>access(2): whether this process may write to a folder, a read-only file system included.</summary>
    public static bool CanWrite(string folder)
    {
        const int WriteAndSearch = 2 | 1;
        return AccessCall(folder, WriteAndSearch) == 0;
    }

    /// <summary>geteuid(2): the user as whom this process acts; 0 for the one with all rights.</summary>
    public static uint EffectiveUser() => EffectiveUserCall();

    /// <summary>
    /// umask(2) of 022: what this process makes from now on can be read by everyone, and changed by its user only.
    /// </summary>
    public static void MakeReadableByAll() => _ = MaskCall(0x12);

    /// <summary>setenv(3): sets a variable for the libraries of this process, which do not see what the framework sets.</summary>
    public static void SetVariable(string name, string value) => _ = SetVariableCall(name, value, 1);

    /// <summary>kill(2) with SIGTERM: asks a process to end.</summary>
    public static void Terminate(int process) => _ = KillCall(process, 15);

    /// <summary>kill(2) with SIGKILL: ends a process.</summary>
    public static void Kill(int process) => _ = KillCall(process, 9);

    /// <summary>Ends this process itself, as a power cut would.</summary>
    public static void KillSelf()
    {
        Kill(Environment.ProcessId);
        Thread.Sleep(Timeout.Infinite);
    }

    /// <summary>
    /// Reads the beginning of a small file without asking for a lock, as every open of the framework does; empty where that
    /// fails.
    /// </summary>
    public static unsafe string ReadText(string path)
    {
        const int ReadOnly = 0x80000; // O_RDONLY | O_CLOEXEC
        var handle = OpenCall(path, ReadOnly);
        if (handle < 0) return "";
        var buffer = stackalloc byte[4096];
        var length = ReadCall(handle, buffer, 4096);
        _ = CloseCall(handle);
        return length > 0 ? Encoding.UTF8.GetString(buffer, (int)length) : "";
    }

    /// <summary>The lines of a file of the kernel, which has no length of its own; none where it cannot be read.</summary>
    public static IReadOnlyList<string> Lines(string path)
    {
        try
        {
            return File.ReadAllLines(path);
        }
        catch (Exception none) when (none is IOException or UnauthorizedAccessException)
        {
            return [];
        }
    }

    /// <summary>statx(2): the device that a path is on, as <c>major:minor</c>.</summary>
    public static unsafe string DeviceOf(string path)
    {
        const int Major = 0x88, Minor = 0x8c;
        var buffer = stackalloc byte[StatSize];
        Look(path, buffer);
        return $"{*(uint*)(buffer + Major)}:{*(uint*)(buffer + Minor)}";
    }

    /// <summary>statx(2): the user who owns what is at a path.</summary>
    public static unsafe uint OwnerOf(string path)
    {
        const int Owner = 0x14;
        var buffer = stackalloc byte[StatSize];
        Look(path, buffer);
        return *(uint*)(buffer + Owner);
    }

    /// <summary>statx(2): what is at a path, or where a link there leads.</summary>
    /// <exception cref="IOException">There is nothing, or it cannot be reached.</exception>
    public static unsafe FileType TypeOf(string path)
    {
        const int Mode = 0x1c, TypeMask = 0xf000;
        var buffer = stackalloc byte[StatSize];
        Look(path, buffer);
        return (FileType)(*(ushort*)(buffer + Mode) & TypeMask);
    }

    /// <summary>
    /// statx(2): whether anything is at a path, be it a link that leads nowhere. False where it cannot be reached.
    /// </summary>
    public static unsafe bool IsThere(string path)
    {
        const int LinksThemselves = 0x100, TypeOnly = 1;
        var buffer = stackalloc byte[StatSize];
        return StatCall(HereUnlessAbsolute, path, LinksThemselves, TypeOnly, buffer) == 0;
    }

    /// <summary>
    /// statx(2): whether nothing is at a path. Unlike <see cref="IsThere"/> it does not guess where that cannot be told.
    /// </summary>
    /// <exception cref="UnauthorizedAccessException">A folder on the way may not be entered.</exception>
    /// <exception cref="IOException">It cannot be told for another reason.</exception>
    public static unsafe bool IsMissing(string path)
    {
        const int TypeOnly = 1, NoEntry = 2, AccessDenied = 13, NoFolder = 20;
        var buffer = stackalloc byte[StatSize];
        if (StatCall(HereUnlessAbsolute, path, 0, TypeOnly, buffer) == 0) return false;
        return Marshal.GetLastPInvokeError() switch
        {
            NoEntry or NoFolder => true,
            AccessDenied => throw new UnauthorizedAccessException($"{path} may not be looked at"),
            _ => throw Failed($"cannot look at {path}"),
        };
    }

    private static unsafe void Look(string path, byte* buffer)
    {
        const int BasicFacts = 0x7ff;
        if (StatCall(HereUnlessAbsolute, path, 0, BasicFacts, buffer) != 0) throw Failed($"cannot look at {path}");
    }

    private static IOException Failed(string what)
    {
        var error = Marshal.GetLastPInvokeError();
        return new IOException($"{what}: {Marshal.GetPInvokeErrorMessage(error)}", error);
    }

    [LibraryImport("libc", EntryPoint = "rename", SetLastError = true, StringMarshalling = StringMarshalling.Utf8)]
    [DefaultDllImportSearchPaths(DllImportSearchPath.System32)]
    private static partial int RenameCall(string from, string to);

    [LibraryImport("libc", EntryPoint = "link", SetLastError = true, StringMarshalling = StringMarshalling.Utf8)]
    [DefaultDllImportSearchPaths(DllImportSearchPath.System32)]
    private static partial int LinkCall(string existing, string added);

    [LibraryImport("libc", EntryPoint = "open", SetLastError = true, StringMarshalling = StringMarshalling.Utf8)]
    [DefaultDllImportSearchPaths(DllImportSearchPath.System32)]
    private static partial int OpenCall(string path, int flags);

    [LibraryImport("libc", EntryPoint = "setenv", StringMarshalling = StringMarshalling.Utf8)]
    [DefaultDllImportSearchPaths(DllImportSearchPath.System32)]
    private static partial int SetVariableCall(string name, string value, int overwrite);

    [LibraryImport("libc", EntryPoint = "access", SetLastError = true, StringMarshalling = StringMarshalling.Utf8)]
    [DefaultDllImportSearchPaths(DllImportSearchPath.System32)]
    private static partial int AccessCall(string path, int mode);

    [LibraryImport("libc", EntryPoint = "statx", SetLastError = true, StringMarshalling = StringMarshalling.Utf8)]
    [DefaultDllImportSearchPaths(DllImportSearchPath.System32)]
    private static unsafe partial int StatCall(int folder, string path, int flags, uint mask, byte* buffer);

    [LibraryImport("libc", EntryPoint = "read", SetLastError = true)]
    [DefaultDllImportSearchPaths(DllImportSearchPath.System32)]
    private static unsafe partial nint ReadCall(int handle, byte* buffer, nuint count);

    [LibraryImport("libc", EntryPoint = "geteuid")]
    [DefaultDllImportSearchPaths(DllImportSearchPath.System32)]
    private static partial uint EffectiveUserCall();

    [LibraryImport("libc", EntryPoint = "umask")]
    [DefaultDllImportSearchPaths(DllImportSearchPath.System32)]
    private static partial uint MaskCall(uint mask);

    [LibraryImport("libc", EntryPoint = "kill", SetLastError = true)]
    [DefaultDllImportSearchPaths(DllImportSearchPath.System32)]
    private static partial int KillCall(int process, int signal);

    [LibraryImport("libc", EntryPoint = "fsync", SetLastError = true)]
    [DefaultDllImportSearchPaths(DllImportSearchPath.System32)]
    private static partial int SyncCall(int handle);

    [LibraryImport("libc", EntryPoint = "close", SetLastError = true)]
    [DefaultDllImportSearchPaths(DllImportSearchPath.System32)]
    private static partial int CloseCall(int handle);
}
