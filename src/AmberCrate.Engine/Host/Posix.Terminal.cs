using System.Runtime.InteropServices;

namespace AmberCrate.Engine.Host;

/// <content>Terminals: termios(3).</content>
internal static partial class Posix
{
    /// <summary>More than a struct termios has on any platform of Linux.</summary>
    private const int TermiosSize = 128;

    /// <summary>tcgetattr(3) and cfmakeraw(3): makes a terminal pass on every key as it is typed.</summary>
    /// <returns>How it was set before; null where the descriptor is no terminal.</returns>
    public static unsafe byte[]? MakeTerminalRaw(int descriptor)
    {
        var before = new byte[TermiosSize];
        var raw = new byte[TermiosSize];
        fixed (byte* old = before, changed = raw)
        {
            if (GetTerminalCall(descriptor, old) != 0) return null;
            before.CopyTo(raw, 0);
            MakeRawCall(changed);
            _ = SetTerminalCall(descriptor, 0, changed);
        }

        return before;
    }

    /// <summary>tcsetattr(3): sets a terminal.</summary>
    public static unsafe void SetTerminal(int descriptor, byte[] mode)
    {
        fixed (byte* bytes = mode) _ = SetTerminalCall(descriptor, 0, bytes);
    }

    /// <summary>poll(2): whether something can be read from a descriptor.</summary>
    public static unsafe bool HasInput(int descriptor, int milliseconds)
    {
        const short Input = 1;
        var wanted = stackalloc short[4];
        *(int*)wanted = descriptor;
        wanted[2] = Input;
        return PollCall(wanted, 1, milliseconds) > 0;
    }

    /// <summary>read(2) on a descriptor.</summary>
    public static unsafe int Read(int descriptor, byte[] buffer)
    {
        fixed (byte* bytes = buffer) return (int)ReadCall(descriptor, bytes, (nuint)buffer.Length);
    }

    [LibraryImport("libc", EntryPoint = "tcgetattr", SetLastError = true)]
    [DefaultDllImportSearchPaths(DllImportSearchPath.System32)]
    private static unsafe partial int GetTerminalCall(int descriptor, byte* mode);

    [LibraryImport("libc", EntryPoint = "tcsetattr", SetLastError = true)]
    [DefaultDllImportSearchPaths(DllImportSearchPath.System32)]
    private static unsafe partial int SetTerminalCall(int descriptor, int actions, byte* mode);

    [LibraryImport("libc", EntryPoint = "cfmakeraw")]
    [DefaultDllImportSearchPaths(DllImportSearchPath.System32)]
    private static unsafe partial void MakeRawCall(byte* mode);

    [LibraryImport("libc", EntryPoint = "poll", SetLastError = true)]
    [DefaultDllImportSearchPaths(DllImportSearchPath.System32)]
    private static unsafe partial int PollCall(short* wanted, nuint count, int milliseconds);
}
