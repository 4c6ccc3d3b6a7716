using System.Text.Encodings.Web;
using System.Text.Json;

namespace AmberCrate.Core.Cards;

/// <summary>A card as one line of JSON, with the same keys as the card that people write: the form it has in a catalogue.</summary>
public static class CardJson
{
    /// <summary>Letters of every script are written as they are: catalogues are UTF-8 and are never put into a web page unescaped.</summary>
    private static readonly CardJsonContext Context =
        new(new JsonSerializerOptions(CardJsonContext.Default.Options) { Encoder = JavaScriptEncoder.UnsafeRelaxedJsonEscaping });

    /// <summary>Writes a card as one line, without a line break. The same card gives the same bytes.</summary>
    public static byte[] Write(AppCard card) => JsonSerializer.SerializeToUtf8Bytes(card, Context.AppCard);

    /// <summary>Reads a card.</summary>
    /// <exception cref="FormatException">The line is not a card; the message says where and what was expected.</exception>
    public static AppCard Read(ReadOnlySpan<byte> line)
    {
        AppCard card;
        try
        {
            card = JsonSerializer.Deserialize(line, Context.AppCard) ?? throw new FormatException("expected an app card, found null");
        }
        catch (JsonException fault)
        {
            throw new FormatException($"{fault.Path}: {fault.InnerException?.Message ?? fault.Message}", fault);
        }

        return CardRules.Broken(card).Select(fault => $"{fault.Key}: {fault.Message}").FirstOrDefault() is { } broken
            ? throw new FormatException(broken)
            : card with { Releases = [.. card.Releases.OrderByDescending(release => release.Version)] };
    }
}
