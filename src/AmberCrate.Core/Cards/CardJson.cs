using System.Text.Json;

namespace AmberCrate.Core.Cards;

/// <summary>
/// A card as one line of JSON, with the same keys as the card that people write: the form it has in a catalogue. Read and
/// written by hand, since a large catalogue is a million releases.
/// </summary>
public static class CardJson
{
    /// <summary>Writes a card as one line, without a line break. The same card gives the same bytes.</summary>
    public static byte[] Write(AppCard card) => CardLineWriter.Write(card);

    /// <summary>Reads a card.</summary>
    /// <exception cref="FormatException">The line is not a card; the message says where and what was expected.</exception>
    public static AppCard Read(ReadOnlySpan<byte> line)
    {
        AppCard card;
        try
        {
            card = new CardLineReader(line).Read();
        }
        catch (JsonException fault)
        {
            throw new FormatException(fault.Message, fault);
        }

        return CardRules.Broken(card).Select(fault => $"{fault.Key}: {fault.Message}").FirstOrDefault() is { } broken
            ? throw new FormatException(broken)
            : card;
    }
}
