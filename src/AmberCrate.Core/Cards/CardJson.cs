using System.Text.Json;
using AmberCrate.Core.Values;

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
    /// <exception cref="MalformedException">The line is not a card; the message says where and what was expected.</exception>
    public static AppCard Read(ReadOnlySpan<byte> line) => Read(line, out _);

    /// <summary>Reads a card.</summary>
    /// <param name="line">The line.</param>
    /// <param name="canOpen">Whether <see cref="Open"/> takes the line as it is: its releases stand in order. Otherwise it takes
    /// what <see cref="Write"/> makes of the card.</param>
    /// <exception cref="MalformedException">The line is not a card; the message says where and what was expected.</exception>
    public static AppCard Read(ReadOnlySpan<byte> line, out bool canOpen)
    {
        var reader = new CardLineReader(line);
        var card = Read(ref reader);
        canOpen = reader.IsInOrder;
        return CardRules.Broken(card).Select(fault => $"{fault.Key}: {fault.Message}").FirstOrDefault() is { } broken
            ? throw new MalformedException(broken)
            : card;
    }

    /// <summary>
    /// Opens the line of a card that was read and checked as a whole before, the newest release first. Its releases, and their
    /// artifacts, are read when they are asked for: most commands look at one or two of them.
    /// </summary>
    /// <param name="line">The line; it must not change after this.</param>
    /// <param name="damaged">What is thrown, now or later, where the line is not what it was.</param>
    public static AppCard Open(ReadOnlyMemory<byte> line, Func<MalformedException, Exception> damaged)
    {
        try
        {
            var reader = new CardLineReader(line, damaged);
            return Read(ref reader);
        }
        catch (MalformedException fault)
        {
            throw damaged(fault);
        }
    }

    private static AppCard Read(ref CardLineReader reader)
    {
        try
        {
            return reader.Read();
        }
        catch (JsonException fault)
        {
            throw new MalformedException(fault.Message, fault);
        }
    }
}
