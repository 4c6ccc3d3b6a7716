using System.Runtime.InteropServices;

namespace AmberCrate.Engine.SystemCalls;

/// <summary>
/// Standard output or standard error by write(2). The framework's own stream prepares a terminal for reading first. That takes
/// time, and leaves the keypad of the terminal in another mode. If the reader of a pipe is gone, nothing more is written.
/// </summary>
/// <param name="descriptor">The descriptor that it writes to.</param>
public sealed partial class OutputStream(int descriptor = OutputStream.Descriptor) : Stream
{
    /// <summary>The descriptor of standard output.</summary>
    public const int Descriptor = 1;

    /// <summary>The descriptor of standard error.</summary>
    public const int ErrorDescriptor = 2;

    private const int Interrupted = 4;
    private const int NotNow = 11;
    private const int BrokenPipe = 32;

    private bool _isGone;

    /// <summary>Whether this process has written anything to standard output.</summary>
    public static bool HasWritten { get; private set; }

    /// <inheritdoc/>
    public override bool CanRead => false;

    /// <inheritdoc/>
    public override bool CanSeek => false;

    /// <inheritdoc/>
    public override bool CanWrite => true;

    /// <inheritdoc/>
    public override long Length => throw new NotSupportedException();

    /// <inheritdoc/>
    public override long Position
    {
        get => throw new NotSupportedException();
        set => throw new NotSupportedException();
    }

    /// <inheritdoc/>
    public override void Flush()
    {
        // Nothing is held back.
    }

    /// <inheritdoc/>
    public override int Read(byte[] buffer, int offset, int count) => throw new NotSupportedException();

    /// <inheritdoc/>
    public override long Seek(long offset, SeekOrigin origin) => throw new NotSupportedException();

    /// <inheritdoc/>
    public override void SetLength(long value) => throw new NotSupportedException();

    /// <inheritdoc/>
    public override void Write(byte[] buffer, int offset, int count) => Write(buffer.AsSpan(offset, count));

    /// <inheritdoc/>
    /// <exception cref="IOException">It cannot be written, such as where a disk is full.</exception>
    public override unsafe void Write(ReadOnlySpan<byte> buffer)
    {
        var bytes = buffer;
        while (bytes.Length > 0 && !_isGone)
        {
            nint written;
            fixed (byte* start = bytes) written = WriteCall(descriptor, start, bytes.Length);
            if (written >= 0)
            {
                HasWritten |= descriptor == Descriptor;
                bytes = bytes[(int)written..];
                continue;
            }

            switch (Marshal.GetLastPInvokeError())
            {
                case Interrupted: break;
                case NotNow: Thread.Sleep(1); break;
                case BrokenPipe: _isGone = true; break;
                default:
                    throw new IOException(
                    $"{(descriptor == Descriptor ? "standard output" : "standard error")} cannot be written: "
                        + Marshal.GetLastPInvokeErrorMessage(), Marshal.GetLastPInvokeError());
            }
        }
    }

    /// <summary>isatty(3): whether a descriptor leads to a terminal.</summary>
    public static bool IsTerminal(int descriptor) => TerminalCall(descriptor) == 1;

    [LibraryImport("libc", EntryPoint = "isatty")]
    [DefaultDllImportSearchPaths(DllImportSearchPath.System32)]
    private static partial int TerminalCall(int descriptor);

    [LibraryImport("libc", EntryPoint = "write", SetLastError = true)]
    [DefaultDllImportSearchPaths(DllImportSearchPath.System32)]
    private static unsafe partial nint WriteCall(int descriptor, byte* bytes, nint count);
}
