using System.Runtime.InteropServices;
using Microsoft.Win32.SafeHandles;

namespace AmberCrate.Engine.SystemCalls;

/// <content>Names of files: renaming, exchanging and linking.</content>
internal static partial class Posix
{
    private const uint RenameExchange = 2;

    /// <summary>FICLONE of linux/fs.h: _IOW(0x94, 9, int), the same on x86, ARM and RISC-V.</summary>
    private const nuint FileClone = 0x40049409;

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

    /// <summary>renameat2(2) with RENAME_EXCHANGE: two names change places in one step.</summary>
    /// <returns>False where the file system or the C library cannot do that.</returns>
    public static bool Exchange(string one, string other)
    {
        try
        {
            return ExchangeCall(HereUnlessAbsolute, one, HereUnlessAbsolute, other, RenameExchange) == 0;
        }
        catch (EntryPointNotFoundException)
        {
            return false;
        }
    }

    /// <summary>
    /// ioctl_ficlone(2): lets a file share the room of another one with the same content, until one of them is written to.
    /// </summary>
    /// <returns>False where the file system cannot do that.</returns>
    public static bool Clone(string from, string to)
    {
        using var source = File.OpenHandle(from);
        using var target = File.OpenHandle(to, FileMode.Open, FileAccess.Write);
        return CloneCall(target, FileClone, source.DangerousGetHandle()) == 0;
    }

    [LibraryImport("libc", EntryPoint = "ioctl", SetLastError = true)]
    [DefaultDllImportSearchPaths(DllImportSearchPath.System32)]
    private static partial int CloneCall(SafeFileHandle target, nuint request, nint source);

    [LibraryImport("libc", EntryPoint = "rename", SetLastError = true, StringMarshalling = StringMarshalling.Utf8)]
    [DefaultDllImportSearchPaths(DllImportSearchPath.System32)]
    private static partial int RenameCall(string from, string to);

    [LibraryImport("libc", EntryPoint = "link", SetLastError = true, StringMarshalling = StringMarshalling.Utf8)]
    [DefaultDllImportSearchPaths(DllImportSearchPath.System32)]
    private static partial int LinkCall(string existing, string added);

    [LibraryImport("libc", EntryPoint = "renameat2", SetLastError = true, StringMarshalling = StringMarshalling.Utf8)]
    [DefaultDllImportSearchPaths(DllImportSearchPath.System32)]
    private static partial int ExchangeCall(int oneFolder, string one, int otherFolder, string other, uint flags);
}
