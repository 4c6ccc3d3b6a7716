using System.Buffers;
using System.Text.Encodings.Web;
using System.Text.Json;
using AmberCrate.Core.Cards;
using AmberCrate.Core.Formats;
using AmberCrate.Core.Values;

namespace AmberCrate.Core.CardFiles;

/// <summary>
/// A card as one line of JSON, with the same keys as the card that people write: the form it has in a catalogue. Read by a reader
/// of our own, since a large catalogue is a million releases.
/// </summary>
public static class CardJson
{
    private const int UsualLength = 1 << 12;

    /// <summary>
    /// Letters of every script are written as they are: catalogues are UTF-8 and are never put into a web page unescaped.
    /// </summary>
    private static readonly JsonWriterOptions Layout = new() { Encoder = JavaScriptEncoder.UnsafeRelaxedJsonEscaping };

    /// <summary>Writes a card as one line, without a line break. The same card gives the same bytes.</summary>
    public static byte[] Write(AppCard card)
    {
        var bytes = new ArrayBufferWriter<byte>(UsualLength);
        using (var json = WriterInto(bytes)) Write(json, card);
        return bytes.WrittenSpan.ToArray();
    }

    /// <summary>Makes a writer for many cards.</summary>
    public static Utf8JsonWriter WriterInto(IBufferWriter<byte> bytes) => new(bytes, Layout);

    /// <summary>Writes a card.</summary>
    public static void Write(Utf8JsonWriter json, AppCard card) => CardKeys.Table.Write(json, card);

    /// <summary>Reads a card.</summary>
    /// <exception cref="MalformedException">The line is not a card; the message says where and what was expected.</exception>
    public static AppCard Read(ReadOnlySpan<byte> line) => Read(line, out _);

    /// <summary>Reads a card.</summary>
    /// <param name="line">The line.</param>
    /// <param name="canOpen">Whether <see cref="Open"/> takes the line as it is: its releases stand in order. Otherwise it takes
    /// what <see cref="Write(AppCard)"/> makes of the card.</param>
    /// <exception cref="MalformedException">The line is not a card; the message says where and what was expected.</exception>
    public static AppCard Read(ReadOnlySpan<byte> line, out bool canOpen)
    {
        var reader = new JsonLineReader(line);
        var card = reader.ReadAll(CardKeys.Table);
        if (CardRules.Broken(card).Select(fault => $"{fault.Key}: {fault.Message}").FirstOrDefault() is { } broken)
            throw new MalformedException(broken);
        var ordered = CardRules.NewestFirst(card);
        canOpen = ReferenceEquals(ordered, card);
        return ordered;
    }

    /// <summary>
    /// Opens the line of a card that was read and checked as a whole before, the newest release first. Its releases, and their
    /// artifacts, are read when they are requested: most commands look at one or two of them.
    /// </summary>
    /// <param name="line">The line; it must not change after this.</param>
    /// <param name="damaged">What is thrown, now or later, where the line is not what it was.</param>
    public static AppCard Open(ReadOnlyMemory<byte> line, Func<MalformedException, Exception> damaged)
    {
        try
        {
            var reader = new JsonLineReader(line, damaged);
            return reader.ReadAll(CardKeys.Table);
        }
        catch (MalformedException fault)
        {
            throw damaged(fault);
        }
    }
}
