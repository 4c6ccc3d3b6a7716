namespace AmberCrate.Engine.Installers;

/// <summary>
/// What a foreign program may write to a user's terminal: text, and moving on a line. No escape sequence of it reaches the
/// terminal, which could set its title, read the screen, or answer in the user's name.
/// </summary>
internal sealed class TerminalText
{
    private const byte Backspace = 0x08, Bell = 0x07, Delete = 0x7f, FirstText = 0x20, ControlPage = 0xc2, LastControl = 0x9f,
        FirstHigh = 0x80;

    private byte _last;

    /// <summary>The bytes with a question mark for every control character but line ends, tabs, backspace and the bell; those of
    /// ISO 6429's second set included, which UTF-8 writes as C2 80 to C2 9F.</summary>
    public byte[] Tame(ReadOnlySpan<byte> bytes)
    {
        var tamed = bytes.ToArray();
        for (var at = 0; at < tamed.Length; at++)
        {
            var letter = tamed[at];
            var isControl = (letter < FirstText && letter is not ((byte)'\n' or (byte)'\r' or (byte)'\t' or Backspace or Bell))
                || letter == Delete || (_last == ControlPage && letter is >= FirstHigh and <= LastControl);
            if (isControl) tamed[at] = (byte)'?';
            _last = letter;
        }

        return tamed;
    }
}
