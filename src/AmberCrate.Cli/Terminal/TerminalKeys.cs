using System.Text;
using AmberCrate.Engine.SystemCalls;
using Spectre.Console;

namespace AmberCrate.Cli.Terminal;

/// <summary>
/// The keys that the user types while a question is open. Ctrl-D, and the end of the terminal, are the same as Escape. Waiting
/// takes no processor time.
/// </summary>
internal sealed class TerminalKeys : IDisposable
{
    private const int Look = 200, RestOfSequence = 50;
    private const byte EndOfText = 4, Escape = 27, Delete = 127, Back = 8;

    private static TerminalKeys? _open;

    private readonly IDisposable? _terminal;
    private readonly bool _isLeftByEscape;
    private readonly Queue<ConsoleKeyInfo> _typed = new();

    private TerminalKeys(bool isLeftByEscape)
    {
        (_isLeftByEscape, _terminal) = (isLeftByEscape, TerminalDevice.ReadKeys());
        _open = this;
    }

    /// <summary>Begins to read keys.</summary>
    /// <param name="isLeftByEscape">
    /// Whether Escape ends the question with <see cref="NoAnswerException"/>; otherwise the question is passed the key.
    /// </param>
    public static TerminalKeys Open(bool isLeftByEscape) => new(isLeftByEscape);

    /// <summary>Sets the terminal back as it was.</summary>
    public void Dispose()
    {
        _open = null;
        _terminal?.Dispose();
    }

    private ConsoleKeyInfo Next(CancellationToken cancel)
    {
        while (_typed.Count == 0)
        {
            cancel.ThrowIfCancellationRequested();
            if (TerminalDevice.HasKey(Look)) AddBytes(TerminalDevice.Read());
        }

        var key = _typed.Dequeue();
        return key.Key == ConsoleKey.Escape && _isLeftByEscape ? throw new NoAnswerException() : key;
    }

    /// <summary>Takes what was typed as keys: UTF-8, and the sequences of ECMA-48 that arrow keys send.</summary>
    private void AddBytes(ReadOnlyMemory<byte> bytes)
    {
        if (bytes.Length == 0) Add(ConsoleKey.Escape);
        for (var at = 0; at < bytes.Length;)
        {
            var first = bytes.Span[at];
            if (first == Escape)
            {
                if (at + 1 == bytes.Length && TerminalDevice.HasKey(RestOfSequence))
                    bytes = (byte[])[Escape, .. TerminalDevice.Read().Span];
                else if (at > 0) bytes = bytes[at..];
                at = TakeSequence(bytes.Span);
            }
            else if (first is EndOfText or Delete or Back or (byte)'\r' or (byte)'\n' or (byte)' ' or (byte)'\t')
            {
                Add(first switch
                {
                    EndOfText => ConsoleKey.Escape,
                    Delete or Back => ConsoleKey.Backspace,
                    (byte)' ' => ConsoleKey.Spacebar,
                    (byte)'\t' => ConsoleKey.Tab,
                    _ => ConsoleKey.Enter,
                }, (char)first);
                at++;
            }
            else
            {
                _ = Rune.DecodeFromUtf8(bytes.Span[at..], out var rune, out var length);
                foreach (var c in rune.ToString()) Add(KeyOf(c), c);
                at += length;
            }
        }
    }

    /// <summary>Takes a key that begins with Escape, and says where the next one begins.</summary>
    private int TakeSequence(ReadOnlySpan<byte> bytes)
    {
        if (bytes.Length < 3 || bytes[1] is not ((byte)'[' or (byte)'O'))
        {
            Add(ConsoleKey.Escape);
            return 1;
        }

        var end = 2;
        while (end < bytes.Length - 1 && bytes[end] is < 0x40 or > 0x7e) end++;
        ConsoleKey? key = (bytes[end], bytes[2]) switch
        {
            ((byte)'A', _) => ConsoleKey.UpArrow,
            ((byte)'B', _) => ConsoleKey.DownArrow,
            ((byte)'C', _) => ConsoleKey.RightArrow,
            ((byte)'D', _) => ConsoleKey.LeftArrow,
            ((byte)'H', _) => ConsoleKey.Home,
            ((byte)'F', _) => ConsoleKey.End,
            ((byte)'~', (byte)'5') => ConsoleKey.PageUp,
            ((byte)'~', (byte)'6') => ConsoleKey.PageDown,
            _ => null,
        };
        if (key is { } known) Add(known);
        return end + 1;
    }

    private static ConsoleKey KeyOf(char c) =>
        char.IsAsciiLetter(c) ? ConsoleKey.A + (char.ToUpperInvariant(c) - 'A') : char.IsAsciiDigit(c) ? ConsoleKey.D0 + (c - '0')
        : ConsoleKey.None;

    private void Add(ConsoleKey key, char c = '\0') =>
        _typed.Enqueue(new ConsoleKeyInfo(key == ConsoleKey.Escape ? '\0' : c, key, false, false, false));

    /// <summary>Reads the keys of the question that is open, for the prompts of the package.</summary>
    public sealed class Reader : IAnsiConsoleInput
    {
        public bool IsKeyAvailable() => Opened._typed.Count > 0 || TerminalDevice.HasKey(0);

        public ConsoleKeyInfo? ReadKey(bool intercept) => Opened.Next(CancellationToken.None);

        public Task<ConsoleKeyInfo?> ReadKeyAsync(bool intercept, CancellationToken cancellationToken) =>
            Task.FromResult<ConsoleKeyInfo?>(Opened.Next(cancellationToken));

        private static TerminalKeys Opened => _open ?? throw new InvalidOperationException("no question is open");
    }
}
