using System.Runtime.InteropServices;

namespace AmberCrate.Engine.SystemCalls;

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

    /// <summary>
    /// tcgetattr(3) and tcsetattr(3): makes a terminal pass on every key as it is typed and not show it. Its signals stay.
    /// </summary>
    /// <returns>How it was set before; null if the descriptor is no terminal.</returns>
    public static unsafe byte[]? PassOnKeys(int descriptor)
    {
        // struct termios of Linux: four flags of 32 bits, a byte, then the control characters (asm-generic/termbits.h).
        const int LocalFlags = 12, Characters = 17, LeastBytes = Characters + 6, Timeout = Characters + 5;
        const uint ByLine = 2, Echo = 8;
        var before = new byte[TermiosSize];
        fixed (byte* old = before)
            if (GetTerminalCall(descriptor, old) != 0) return null;
        var changed = (byte[])before.Clone();
        fixed (byte* now = changed)
        {
            *(uint*)(now + LocalFlags) &= ~(ByLine | Echo);
            (now[LeastBytes], now[Timeout]) = (1, 0);
            _ = SetTerminalCall(descriptor, 0, now);
        }

        return before;
    }

    /// <summary>ioctl(2) with TIOCGWINSZ: how many columns and lines a terminal has.</summary>
    /// <returns>Null if the descriptor is no terminal, or its size is not known.</returns>
    public static unsafe (int Columns, int Lines)? TerminalSize(int descriptor)
    {
        const nuint GetWindowSize = 0x5413;
        var size = stackalloc ushort[4];
        return ControlCall(descriptor, GetWindowSize, size) == 0 && size[1] > 0 ? (size[1], size[0]) : null;
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

    [LibraryImport("libc", EntryPoint = "ioctl", SetLastError = true)]
    [DefaultDllImportSearchPaths(DllImportSearchPath.System32)]
    private static unsafe partial int ControlCall(int descriptor, nuint request, ushort* size);

    [LibraryImport("libc", EntryPoint = "cfmakeraw")]
    [DefaultDllImportSearchPaths(DllImportSearchPath.System32)]
    private static unsafe partial void MakeRawCall(byte* mode);

    [LibraryImport("libc", EntryPoint = "poll", SetLastError = true)]
    [DefaultDllImportSearchPaths(DllImportSearchPath.System32)]
    private static unsafe partial int PollCall(short* wanted, nuint count, int milliseconds);
}
