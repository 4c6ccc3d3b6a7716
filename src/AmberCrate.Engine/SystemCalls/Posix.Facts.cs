using System.Runtime.InteropServices;
using Microsoft.Win32.SafeHandles;

namespace AmberCrate.Engine.SystemCalls;

/// <content>What is at a path: statx(2).</content>
internal static partial class Posix
{
    /// <summary>statx(2): the device that a path is on, as <c>major:minor</c>.</summary>
    public static unsafe string DeviceOf(string path)
    {
        const int Major = 0x88, Minor = 0x8c;
        var buffer = stackalloc byte[StatSize];
        ReadStatus(path, buffer);
        return $"{*(uint*)(buffer + Major)}:{*(uint*)(buffer + Minor)}";
    }

    /// <summary>statx(2): the user who owns what is at a path.</summary>
    public static unsafe uint OwnerOf(string path)
    {
        const int Owner = 0x14;
        var buffer = stackalloc byte[StatSize];
        ReadStatus(path, buffer);
        return *(uint*)(buffer + Owner);
    }

    /// <summary>statx(2): what is at a path, or where a link there leads.</summary>
    /// <exception cref="IOException">There is nothing, or it cannot be reached.</exception>
    public static unsafe FileType TypeOf(string path)
    {
        const int Mode = 0x1c, TypeMask = 0xf000;
        var buffer = stackalloc byte[StatSize];
        ReadStatus(path, buffer);
        return (FileType)(*(ushort*)(buffer + Mode) & TypeMask);
    }

    /// <summary>statx(2): which file an open one is.</summary>
    /// <exception cref="IOException">It cannot be looked at.</exception>
    public static unsafe FileIdentity IdentityOf(SafeFileHandle file)
    {
        const int EmptyPath = 0x1000, BasicFacts = 0x7ff;
        var buffer = stackalloc byte[StatSize];
        if (StatCall((int)file.DangerousGetHandle(), "", EmptyPath, BasicFacts,
            buffer) != 0) throw Failed("cannot look at a file");
        return Identity(buffer);
    }

    /// <summary>statx(2): which file is at a path; null if nothing is, or it cannot be reached.</summary>
    public static unsafe FileIdentity? IdentityAt(string path)
    {
        const int LinksThemselves = 0x100, BasicFacts = 0x7ff;
        var buffer = stackalloc byte[StatSize];
        return StatCall(HereUnlessAbsolute, path, LinksThemselves, BasicFacts, buffer) == 0 ? Identity(buffer) : null;
    }

    /// <summary>
    /// statx(2): when content, name or attributes of what is at a path were changed last, a link itself; null if nothing is.
    /// </summary>
    public static DateTimeOffset? ChangedAt(string path) => IdentityAt(path) is { Changed: var (seconds, nanoseconds) }
        ? TimeOf(seconds, nanoseconds)
        : null;

    /// <summary>
    /// A time of the file system, which may lie beyond what the framework can say: then it is the last or first that it can.
    /// </summary>
    private static DateTimeOffset TimeOf(long seconds, uint nanoseconds) =>
        seconds >= DateTimeOffset.MaxValue.ToUnixTimeSeconds() ? DateTimeOffset.MaxValue
        : seconds <= DateTimeOffset.MinValue.ToUnixTimeSeconds() ? DateTimeOffset.MinValue
        : DateTimeOffset.FromUnixTimeSeconds(seconds).AddTicks(nanoseconds / 100);

    /// <summary>statx(2): the owner of a file or folder, or of a link itself. Null if there is nothing at the path.</summary>
    public static unsafe uint? OwnerOfLink(string path)
    {
        const int LinksThemselves = 0x100, BasicFacts = 0x7ff, Owner = 0x14;
        var buffer = stackalloc byte[StatSize];
        return StatCall(HereUnlessAbsolute, path, LinksThemselves, BasicFacts, buffer) == 0 ? *(uint*)(buffer + Owner) : null;
    }

    /// <summary>statx(2): how many names a file has, and which file it is; null if nothing is.</summary>
    public static unsafe (uint Count, (string Device, ulong Number) File)? LinksOf(string path)
    {
        const int LinksThemselves = 0x100, BasicFacts = 0x7ff, Names = 0x10;
        var buffer = stackalloc byte[StatSize];
        if (StatCall(HereUnlessAbsolute, path, LinksThemselves, BasicFacts, buffer) != 0) return null;
        var file = Identity(buffer);
        return (*(uint*)(buffer + Names), (file.Device, file.Number));
    }

    private static unsafe FileIdentity Identity(byte* facts)
    {
        const int Number = 0x20, ChangedSeconds = 0x60, ChangedNanoseconds = 0x68, Major = 0x88, Minor = 0x8c;
        return new FileIdentity(
            $"{*(uint*)(facts + Major)}:{*(uint*)(facts + Minor)}", *(ulong*)(facts + Number),
            (*(long*)(facts + ChangedSeconds), *(uint*)(facts + ChangedNanoseconds)));
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

    /// <summary>statx(2): whether something can be reached by a path, all links followed.</summary>
    public static unsafe bool IsReachable(string path)
    {
        const int TypeOnly = 1;
        var buffer = stackalloc byte[StatSize];
        return StatCall(HereUnlessAbsolute, path, 0, TypeOnly, buffer) == 0;
    }

    /// <summary>statx(2): whether a path leads to something that its owner may execute, all links followed.</summary>
    public static unsafe bool IsExecutable(string path)
    {
        const int TypeAndMode = 3, Mode = 28, OwnerExecutes = 0x40;
        var buffer = stackalloc byte[StatSize];
        return StatCall(HereUnlessAbsolute, path, 0, TypeAndMode, buffer) == 0
            && (*(ushort*)(buffer + Mode) & OwnerExecutes) != 0;
    }

    /// <summary>
    /// statx(2): whether nothing is at a path. Unlike <see cref="IsThere"/> it does not guess where that is unknown.
    /// </summary>
    /// <exception cref="UnauthorizedAccessException">A folder on the way may not be entered.</exception>
    /// <exception cref="IOException">It is unknown for another reason.</exception>
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

    private static unsafe void ReadStatus(string path, byte* buffer)
    {
        const int BasicFacts = 0x7ff;
        if (StatCall(HereUnlessAbsolute, path, 0, BasicFacts, buffer) != 0) throw Failed($"cannot look at {path}");
    }

    /// <summary>readlink(2): where a link leads; null where there is none, or it leads further than a path can.</summary>
    public static unsafe string? LinkAt(string path)
    {
        const int most = 4096;
        var buffer = stackalloc byte[most];
        var length = ReadLinkCall(path, buffer, most);
        return length is > 0 and < most ? System.Text.Encoding.UTF8.GetString(buffer, (int)length) : null;
    }

    /// <summary>
    /// readdir(3): the names in a folder. The framework's own way asks about each link in it what it leads to.
    /// </summary>
    /// <exception cref="IOException">It cannot be read.</exception>
    public static unsafe List<string> NamesIn(string folder)
    {
        const int nameAt = 19;
        var names = new List<string>();
        var open = OpenFolderCall(folder);
        if (open == 0) throw new IOException($"{folder} cannot be read: {Marshal.GetLastPInvokeErrorMessage()}");
        try
        {
            for (nint entry; (entry = ReadFolderCall(open)) != 0;)
            {
                var name = Marshal.PtrToStringUTF8(entry + nameAt)!;
                if (name is not ("." or "..")) names.Add(name);
            }
        }
        finally
        {
            _ = CloseFolderCall(open);
        }

        return names;
    }

    [LibraryImport("libc", EntryPoint = "opendir", SetLastError = true, StringMarshalling = StringMarshalling.Utf8)]
    [DefaultDllImportSearchPaths(DllImportSearchPath.System32)]
    private static partial nint OpenFolderCall(string path);

    // Its layout is that of struct dirent with 64-bit offsets: the name follows 19 bytes.
    [LibraryImport("libc", EntryPoint = "readdir64")]
    [DefaultDllImportSearchPaths(DllImportSearchPath.System32)]
    private static partial nint ReadFolderCall(nint folder);

    [LibraryImport("libc", EntryPoint = "closedir")]
    [DefaultDllImportSearchPaths(DllImportSearchPath.System32)]
    private static partial int CloseFolderCall(nint folder);

    [LibraryImport("libc", EntryPoint = "readlink", SetLastError = true, StringMarshalling = StringMarshalling.Utf8)]
    [DefaultDllImportSearchPaths(DllImportSearchPath.System32)]
    private static unsafe partial nint ReadLinkCall(string path, byte* buffer, nint size);

    [LibraryImport("libc", EntryPoint = "statx", SetLastError = true, StringMarshalling = StringMarshalling.Utf8)]
    [DefaultDllImportSearchPaths(DllImportSearchPath.System32)]
    private static unsafe partial int StatCall(int folder, string path, int flags, uint mask, byte* buffer);
}
