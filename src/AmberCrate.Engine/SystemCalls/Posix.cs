using System.Runtime.InteropServices;
using System.Text;
using Microsoft.Win32.SafeHandles;

namespace AmberCrate.Engine.SystemCalls;

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

    /// <summary>Newer calls have one number on all architectures. The C library knows this one from version 2.34 only.</summary>
    private const int CloseRangeNumber = 436;

    /// <summary>O_DIRECTORY | O_CLOEXEC. ARM has a number of its own for the first (asm/fcntl.h).</summary>
    private static readonly int ReadOnlyFolder = (IsArm ? 0x4000 : 0x10000) | 0x80000;

    /// <summary>O_NOFOLLOW; it differs too.</summary>
    private static readonly int NoFollow = IsArm ? 0x8000 : 0x20000;

    private static bool IsArm => RuntimeInformation.ProcessArchitecture is Architecture.Arm64 or Architecture.Arm;

    /// <summary>fsync(2) on a folder, so that a rename in it survives a power loss.</summary>
    /// <exception cref="IOException">The disk did not take it.</exception>
    public static void FlushFolder(string folder)
    {
        // Some file systems do not know this for folders; then there is nothing to do.
        const int NotKnown = 22, NotSupported = 95, ReadOnlyFileSystem = 30;
        Flush(folder, SyncCall, error => error is NotKnown or NotSupported or ReadOnlyFileSystem);
    }

    /// <summary>
    /// syncfs(2): everything that was written to the file system of a folder is on the disk, whoever has written it.
    /// </summary>
    /// <exception cref="IOException">The disk did not take something.</exception>
    public static void FlushFileSystem(string folder) => Flush(folder, SyncFileSystemCall, _ => false);

    /// <summary>
    /// sync_file_range(2): has the disk begin to take what was written to a file, and waits for nothing. Whether that works does
    /// not matter; <see cref="FlushFileSystem"/> has less to wait for if it does.
    /// </summary>
    public static void BeginFlush(SafeFileHandle file)
    {
        const uint Write = 2;
        _ = SyncFileRangeCall(file, 0, 0, Write);
    }

    private static void Flush(string folder, Func<int, int> flush, Func<int, bool> isNothing)
    {
        var handle = OpenCall(folder, ReadOnlyFolder);
        if (handle < 0) throw Failed($"cannot open {folder}");
        try
        {
            if (flush(handle) != 0 && !isNothing(Marshal.GetLastPInvokeError())) throw Failed($"{folder} cannot be flushed");
        }
        finally
        {
            _ = CloseCall(handle);
        }
    }

    /// <summary>
    /// Opens /dev/null instead of standard input, output or error where a caller has closed them. Otherwise the first files that
    /// are opened would count as them.
    /// </summary>
    public static void OpenStandardDescriptors()
    {
        const int DescriptorFlags = 1, ReadAndWrite = 2, LastOfThem = 2;
        for (var number = 0; number <= LastOfThem; number++)
        {
            if (ControlCall(number, DescriptorFlags) >= 0) continue;
            var opened = OpenCall("/dev/null", ReadAndWrite);
            if (opened < 0 || opened == number) continue;
            _ = DuplicateCall(opened, number);
            _ = CloseCall(opened);
        }
    }

    /// <summary>
    /// Opens a regular file below a folder, without following a link anywhere on the way: openat(2) with O_NOFOLLOW, one name
    /// after the other.
    /// </summary>
    /// <param name="folder">The folder, which is trusted.</param>
    /// <param name="path">The path of the file inside it.</param>
    /// <exception cref="IOException">There is no such regular file, or a link is on the way.</exception>
    public static unsafe SafeFileHandle OpenBeneath(string folder, string path)
    {
        const int CloseOnExec =
            0x80000, NotBlocking = 0x800, EmptyPath = 0x1000, BasicFacts = 0x7ff, Mode = 0x1c, TypeMask = 0xf000;
        var handle = OpenCall(folder, ReadOnlyFolder);
        if (handle < 0) throw Failed($"cannot open {folder}");
        var names = path.Split('/');
        for (var at = 0; at < names.Length; at++)
        {
            var flags = at < names.Length - 1 ? ReadOnlyFolder : CloseOnExec | NotBlocking;
            var next = OpenAtCall(handle, names[at], flags | NoFollow);
            var error = Marshal.GetLastPInvokeError();
            _ = CloseCall(handle);
            Marshal.SetLastPInvokeError(error);
            if (next < 0) throw Failed($"cannot open {path} in {folder} without following a link");
            handle = next;
        }

        var opened = new SafeFileHandle(handle, ownsHandle: true);
        var buffer = stackalloc byte[StatSize];
        if (StatCall(handle, "", EmptyPath, BasicFacts, buffer) == 0
            && (FileType)(*(ushort*)(buffer + Mode) & TypeMask) == FileType.Regular) return opened;
        opened.Dispose();
        throw new IOException($"{path} in {folder} is not a regular file");
    }

    /// <summary>lchown(2): gives what is at a path, not where a link leads, to a user and a group.</summary>
    /// <exception cref="IOException">That is not possible.</exception>
    public static void ChangeOwner(string path, uint user, uint group)
    {
        if (ChangeOwnerCall(path, user, group) != 0) throw Failed($"{path} cannot be given to user {user}");
    }

    /// <summary>lremovexattr(2): takes an extended attribute away, if it is there.</summary>
    public static void RemoveAttribute(string path, string name) => _ = RemoveAttributeCall(path, name);

    /// <summary>
    /// close_range(2): programs that are started from now on get none of the descriptors that are open, but the three standard
    /// ones.
    /// </summary>
    public static void CloseOnStart()
    {
        const int First = 3, CloseOnExec = 4;
        _ = SystemCall(CloseRangeNumber, First, int.MaxValue, CloseOnExec);
    }

    /// <summary>memfd_create(2): a file in memory that a program which is started now can read from its beginning.</summary>
    /// <param name="content">What it holds.</param>
    /// <exception cref="IOException">There is no memory or no descriptor for it.</exception>
    public static unsafe InheritedDescriptor InheritedFile(ReadOnlySpan<byte> content)
    {
        var handle = MemoryFileCall("acrate", 0);
        if (handle < 0) throw Failed("cannot make a file in memory");
        fixed (byte* bytes = content)
        {
            if (WriteAtCall(handle, bytes, (nuint)content.Length, 0) == content.Length) return new InheritedDescriptor(handle);
        }

        _ = CloseCall(handle);
        throw new IOException("cannot fill a file in memory");
    }

    /// <summary>close(2).</summary>
    internal static void Close(int descriptor) => _ = CloseCall(descriptor);

    /// <summary>access(2): whether this process may write to a folder, a read-only file system included.</summary>
    public static bool CanWrite(string folder)
    {
        const int WriteAndSearch = 2 | 1;
        return AccessCall(folder, WriteAndSearch) == 0;
    }

    /// <summary>access(2): whether this process may read a file.</summary>
    public static bool CanRead(string path)
    {
        const int Read = 4;
        return AccessCall(path, Read) == 0;
    }

    /// <summary>geteuid(2): the user as whom this process acts; 0 for the one with all rights.</summary>
    public static uint EffectiveUser() => EffectiveUserCall();

    /// <summary>getegid(2): the group as which this process acts.</summary>
    public static uint EffectiveGroup() => EffectiveGroupCall();

    /// <summary>
    /// umask(2) of 022: what this process makes from now on can be read by everyone, and changed by its user only.
    /// </summary>
    public static void MakeReadableByAll() => _ = MaskCall(0x12);

    /// <summary>umask(2): what this process makes can be changed by its user only; what was closed also stays so.</summary>
    public static void KeepOthersFromWriting() => _ = MaskCall(MaskCall(0x12) | 0x12);

    /// <summary>signal(2): writing beyond a limit of file size fails, and does not end this process.</summary>
    public static void IgnoreFileSizeSignal()
    {
        const int FileSizeExceeded = 25, Ignore = 1;
        _ = SignalCall(FileSizeExceeded, Ignore);
    }

    /// <summary>getrlimit(2): how large a file this process may write, in bytes; null for no limit.</summary>
    public static unsafe long? FileSizeLimit()
    {
        const int FileSize = 1;
        var limits = stackalloc ulong[2];
        return LimitCall(FileSize, limits) == 0 && limits[0] <= long.MaxValue ? (long)limits[0] : null;
    }

    /// <summary>statvfs(3): whether programs on the file system of a folder may not be started.</summary>
    public static unsafe bool IsNotExecutable(string folder)
    {
        const int FlagsAt = 72, Size = 256;
        const ulong NoExecution = 8;
        var buffer = stackalloc byte[Size];
        return FileSystemCall(folder, buffer) == 0 && (*(ulong*)(buffer + FlagsAt) & NoExecution) != 0;
    }

    /// <summary>
    /// statvfs(3): how many more files a file system takes; null if it cannot say, as one that makes inodes as needed.
    /// </summary>
    public static unsafe long? FreeInodes(string folder)
    {
        // struct statvfs of 64 bits: f_bsize f_frsize f_blocks f_bfree f_bavail f_files f_ffree f_favail.
        const int FilesAt = 40, FreeAt = 56, Size = 256;
        var buffer = stackalloc byte[Size];
        return FileSystemCall(folder, buffer) == 0 && *(long*)(buffer + FilesAt) > 0 ? *(long*)(buffer + FreeAt) : null;
    }

    /// <summary>setenv(3): sets a variable for the libraries of this process, which do not see what the framework sets.</summary>
    public static void SetVariable(string name, string value) => _ = SetVariableCall(name, value, 1);

    /// <summary>kill(2) with SIGTERM: asks a process to end.</summary>
    public static void Terminate(int process) => _ = KillCall(process, 15);

    /// <summary>kill(2) with SIGKILL: ends a process.</summary>
    public static void Kill(int process) => _ = KillCall(process, 9);

    /// <summary>_exit(2): ends this process at once.</summary>
    public static void EndNow(int code) => ExitCall(code);

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

    private static unsafe bool IsOnlyOwnFile(SafeFileHandle file)
    {
        const int EmptyPath = 0x1000, BasicFacts = 0x7ff, Names = 0x10;
        var buffer = stackalloc byte[StatSize];
        return IsOwnRegularFile(file)
            && StatCall((int)file.DangerousGetHandle(), "", EmptyPath, BasicFacts, buffer) == 0 && *(uint*)(buffer + Names) <= 1;
    }

    private static unsafe bool IsOwnRegularFile(SafeFileHandle file)
    {
        const int EmptyPath = 0x1000, BasicFacts = 0x7ff, Owner = 0x14, Mode = 0x1c, TypeMask = 0xf000;
        var buffer = stackalloc byte[StatSize];
        return StatCall((int)file.DangerousGetHandle(), "", EmptyPath, BasicFacts, buffer) == 0
            && (FileType)(*(ushort*)(buffer + Mode) & TypeMask) == FileType.Regular
            && *(uint*)(buffer + Owner) == EffectiveUser();
    }

    private static IOException Failed(string what)
    {
        var error = Marshal.GetLastPInvokeError();
        return new IOException($"{what}: {Marshal.GetPInvokeErrorMessage(error)}", error);
    }

    [LibraryImport("libc", EntryPoint = "open", SetLastError = true, StringMarshalling = StringMarshalling.Utf8)]
    [DefaultDllImportSearchPaths(DllImportSearchPath.System32)]
    private static partial int OpenCall(string path, int flags);

    [LibraryImport("libc", EntryPoint = "open", SetLastError = true, StringMarshalling = StringMarshalling.Utf8)]
    [DefaultDllImportSearchPaths(DllImportSearchPath.System32)]
    private static partial int OpenModeCall(string path, int flags, uint mode);

    [LibraryImport("libc", EntryPoint = "openat", SetLastError = true, StringMarshalling = StringMarshalling.Utf8)]
    [DefaultDllImportSearchPaths(DllImportSearchPath.System32)]
    private static partial int OpenAtCall(int folder, string path, int flags);

    [LibraryImport("libc", EntryPoint = "fcntl", SetLastError = true)]
    [DefaultDllImportSearchPaths(DllImportSearchPath.System32)]
    private static partial int ControlCall(int handle, int command);

    [LibraryImport("libc", EntryPoint = "dup2", SetLastError = true)]
    [DefaultDllImportSearchPaths(DllImportSearchPath.System32)]
    private static partial int DuplicateCall(int handle, int wanted);

    [LibraryImport("libc", EntryPoint = "sync_file_range", SetLastError = true)]
    [DefaultDllImportSearchPaths(DllImportSearchPath.System32)]
    private static partial int SyncFileRangeCall(SafeFileHandle handle, long offset, long count, uint flags);

    [LibraryImport("libc", EntryPoint = "syncfs", SetLastError = true)]
    [DefaultDllImportSearchPaths(DllImportSearchPath.System32)]
    private static partial int SyncFileSystemCall(int handle);

    [LibraryImport("libc", EntryPoint = "setenv", StringMarshalling = StringMarshalling.Utf8)]
    [DefaultDllImportSearchPaths(DllImportSearchPath.System32)]
    private static partial int SetVariableCall(string name, string value, int overwrite);

    [LibraryImport("libc", EntryPoint = "access", SetLastError = true, StringMarshalling = StringMarshalling.Utf8)]
    [DefaultDllImportSearchPaths(DllImportSearchPath.System32)]
    private static partial int AccessCall(string path, int mode);

    [LibraryImport("libc", EntryPoint = "read", SetLastError = true)]
    [DefaultDllImportSearchPaths(DllImportSearchPath.System32)]
    private static unsafe partial nint ReadCall(int handle, byte* buffer, nuint count);

    [LibraryImport("libc", EntryPoint = "geteuid")]
    [DefaultDllImportSearchPaths(DllImportSearchPath.System32)]
    private static partial uint EffectiveUserCall();

    [LibraryImport("libc", EntryPoint = "getegid")]
    [DefaultDllImportSearchPaths(DllImportSearchPath.System32)]
    private static partial uint EffectiveGroupCall();

    [LibraryImport("libc", EntryPoint = "getrlimit", SetLastError = true)]
    [DefaultDllImportSearchPaths(DllImportSearchPath.System32)]
    private static unsafe partial int LimitCall(int resource, ulong* limits);

    [LibraryImport("libc", EntryPoint = "_exit")]
    [DefaultDllImportSearchPaths(DllImportSearchPath.System32)]
    private static partial void ExitCall(int code);

    [LibraryImport("libc", EntryPoint = "signal")]
    [DefaultDllImportSearchPaths(DllImportSearchPath.System32)]
    private static partial nint SignalCall(int signal, nint handler);

    [LibraryImport("libc", EntryPoint = "statvfs", SetLastError = true, StringMarshalling = StringMarshalling.Utf8)]
    [DefaultDllImportSearchPaths(DllImportSearchPath.System32)]
    private static unsafe partial int FileSystemCall(string path, byte* buffer);

    [LibraryImport("libc", EntryPoint = "umask")]
    [DefaultDllImportSearchPaths(DllImportSearchPath.System32)]
    private static partial uint MaskCall(uint mask);

    [LibraryImport("libc", EntryPoint = "lchown", SetLastError = true, StringMarshalling = StringMarshalling.Utf8)]
    [DefaultDllImportSearchPaths(DllImportSearchPath.System32)]
    private static partial int ChangeOwnerCall(string path, uint user, uint group);

    [LibraryImport("libc", EntryPoint = "lremovexattr", SetLastError = true, StringMarshalling = StringMarshalling.Utf8)]
    [DefaultDllImportSearchPaths(DllImportSearchPath.System32)]
    private static partial int RemoveAttributeCall(string path, string name);

    [LibraryImport("libc", EntryPoint = "memfd_create", SetLastError = true, StringMarshalling = StringMarshalling.Utf8)]
    [DefaultDllImportSearchPaths(DllImportSearchPath.System32)]
    private static partial int MemoryFileCall(string name, uint flags);

    [LibraryImport("libc", EntryPoint = "pwrite", SetLastError = true)]
    [DefaultDllImportSearchPaths(DllImportSearchPath.System32)]
    private static unsafe partial nint WriteAtCall(int handle, byte* buffer, nuint count, long offset);

    [LibraryImport("libc", EntryPoint = "syscall", SetLastError = true)]
    [DefaultDllImportSearchPaths(DllImportSearchPath.System32)]
    private static partial nint SystemCall(nint number, nint first, nint second, nint third);

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
