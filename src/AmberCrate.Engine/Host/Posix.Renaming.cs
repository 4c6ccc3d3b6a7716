using System.Runtime.InteropServices;

namespace AmberCrate.Engine.Host;

/// <content>Names of files: renaming, exchanging and linking.</content>
internal static partial class Posix
{
    private const int AtCurrentFolder = -100;
    private const uint RenameExchange = 2;

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
            return ExchangeCall(AtCurrentFolder, one, AtCurrentFolder, other, RenameExchange) == 0;
        }
        catch (EntryPointNotFoundException)
        {
            return false;
        }
    }

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
