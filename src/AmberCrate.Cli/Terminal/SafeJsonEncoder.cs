using System.Globalization;
using System.Text.Encodings.Web;
using AmberCrate.Cli.Texts;

namespace AmberCrate.Cli.Terminal;

/// <summary>
/// Writes JSON texts as they are, except for what must be escaped and for marks that reorder what follows (UAX #9): JSON is
/// looked
/// at on
/// terminals, too.
/// </summary>
internal sealed class SafeJsonEncoder : JavaScriptEncoder
{
    private const int EscapeLength = 6;
    private static readonly JavaScriptEncoder Usual = UnsafeRelaxedJsonEscaping;

    /// <inheritdoc/>
    public override int MaxOutputCharactersPerInputCharacter => Usual.MaxOutputCharactersPerInputCharacter;

    /// <inheritdoc/>
    public override bool WillEncode(int unicodeScalar) => IsMark(unicodeScalar) || Usual.WillEncode(unicodeScalar);

    /// <inheritdoc/>
    public override unsafe int FindFirstCharacterToEncode(char* text, int textLength)
    {
        var first = Usual.FindFirstCharacterToEncode(text, textLength);
        var end = first < 0 ? textLength : first;
        for (var at = 0; at < end; at++)
        {
            if (text[at] > '~' && IsMark(text[at])) return at;
        }

        return first;
    }

    /// <inheritdoc/>
    public override unsafe bool TryEncodeUnicodeScalar(
        int unicodeScalar, char* buffer, int bufferLength, out int numberOfCharactersWritten)
    {
        if (!IsMark(unicodeScalar))
            return Usual.TryEncodeUnicodeScalar(unicodeScalar, buffer, bufferLength, out numberOfCharactersWritten);
        numberOfCharactersWritten = bufferLength < EscapeLength ? 0 : EscapeLength;
        return bufferLength >= EscapeLength && string.Create(CultureInfo.InvariantCulture, $"\\u{unicodeScalar:X4}")
            .TryCopyTo(new Span<char>(buffer, bufferLength));
    }

    private static bool IsMark(int unicodeScalar) =>
        unicodeScalar <= char.MaxValue && SteeringCharacters.Has((char)unicodeScalar);
}
