using System.Text.Json;
using AmberCrate.Core.CardFiles;
using AmberCrate.Core.Cards;
using AmberCrate.Core.Values;

namespace AmberCrate.Core.Catalogues;

/// <summary>One line of a part: a card, or word that an app is offered no more.</summary>
/// <param name="Id">The app.</param>
/// <param name="Card">Its card; null where it is gone.</param>
/// <param name="CanOpen">Whether the line of the card is as <see cref="CardJson.Open"/> takes it.</param>
public sealed record CatalogueLine(AppId Id, AppCard? Card, bool CanOpen = true)
{
    private const string GoneKey = "gone";

    /// <summary>Writes the line for an app that is gone, without a line break.</summary>
    public static byte[] WriteGone(AppId id) => JsonSerializer.SerializeToUtf8Bytes(
        new Dictionary<string, string> { [GoneKey] = id.Text }, CatalogueLineJson.Default.DictionaryStringString);

    /// <summary>Reads a line.</summary>
    /// <exception cref="MalformedException">It is neither; the message says where and what was expected.</exception>
    public static CatalogueLine Read(ReadOnlySpan<byte> line)
    {
        if (!line.StartsWith("{\"gone\":"u8)) return FromCard(CardJson.Read(line, out var canOpen), canOpen);
        JsonUnicode.Require(line);
        try
        {
            var keys = JsonSerializer.Deserialize(line, CatalogueLineJson.Default.DictionaryStringString)!;
            return keys.Count == 1
                ? new CatalogueLine(AppId.Parse(keys[GoneKey] ?? ""), null)
                : throw new MalformedException($"{GoneKey}: expected no other key beside it");
        }
        catch (Exception fault) when (ForeignText.IsOfText(fault))
        {
            throw new MalformedException($"{GoneKey}: {ForeignText.Words(fault)}", fault);
        }
    }

    /// <summary>Reads a line; null where it cannot be read.</summary>
    public static CatalogueLine? TryRead(ReadOnlySpan<byte> line)
    {
        try
        {
            return Read(line);
        }
        catch (MalformedException)
        {
            return null;
        }
    }

    private static CatalogueLine FromCard(AppCard card, bool canOpen) => new(card.Id, card, canOpen);
}
