namespace AmberCrate.Engine.SystemCalls;

/// <summary>
/// The terminal of this process. The framework's own console switches the keypad of a terminal to another mode and leaves it so;
/// this does not.
/// </summary>
public static class TerminalDevice
{
    private const int Input = 0, Output = 1, Error = 2;

    /// <summary>How many columns and lines the terminal of the output has; null if there is no terminal.</summary>
    public static (int Columns, int Lines)? Size() =>
        Posix.TerminalSize(Output) ?? Posix.TerminalSize(Error) ?? Posix.TerminalSize(Input);

    /// <summary>
    /// Has the terminal pass on each key as it is typed, without showing it, until the result is disposed. Interrupting works as
    /// before. Null if there is no terminal.
    /// </summary>
    public static IDisposable? ReadKeys() => Posix.PassOnKeys(Input) is { } before ? new Before(before) : null;

    /// <summary>Waits for a key. This takes no processor time.</summary>
    /// <param name="milliseconds">For how long.</param>
    public static bool HasKey(int milliseconds) => Posix.HasInput(Input, milliseconds);

    /// <summary>Reads what has been typed; empty at the end of the input.</summary>
    public static ReadOnlyMemory<byte> Read()
    {
        var buffer = new byte[256];
        return buffer.AsMemory(0, Math.Max(0, Posix.Read(Input, buffer)));
    }

    private sealed class Before(byte[] mode) : IDisposable
    {
        public void Dispose() => Posix.SetTerminal(Input, mode);
    }
}
