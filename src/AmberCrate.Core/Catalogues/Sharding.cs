using System.Text;
using AmberCrate.Core.Cards;

namespace AmberCrate.Core.Catalogues;

/// <summary>Divides the cards of a catalogue into shards so that a change to one card changes one small shard.</summary>
public static class Sharding
{
    /// <summary>How many cards a shard holds on average, at most.</summary>
    public const int CardsPerShard = 64;

    /// <summary>
    /// The content of every shard: JSON Lines, ordered by id. Which shard a card is in depends on nothing but its
    /// id and the number of shards, and that number is a power of two, so that it seldom changes.
    /// </summary>
    public static IEnumerable<(int Apps, byte[] Content)> Divide(IReadOnlyCollection<AppCard> cards)
    {
        var shards = 1;
        while (shards * CardsPerShard < cards.Count) shards *= 2;
        return cards
            .GroupBy(card => Place(card.Id) & (uint)(shards - 1))
            .OrderBy(shard => shard.Key)
            .Select(shard => (shard.Count(), Lines(shard.OrderBy(card => card.Id.Text, StringComparer.Ordinal))));
    }

    private static byte[] Lines(IEnumerable<AppCard> cards)
    {
        using var content = new MemoryStream();
        foreach (var card in cards)
        {
            content.Write(CardJson.Write(card));
            content.WriteByte((byte)'\n');
        }

        return content.ToArray();
    }

    /// <summary>FNV-1a, 32 bits (Fowler, Noll, Vo): stable over machines and versions, which string hashes of the framework are not.</summary>
    private static uint Place(AppId id)
    {
        var hash = 2166136261u;
        foreach (var part in Encoding.ASCII.GetBytes(id.Text)) hash = unchecked((hash ^ part) * 16777619u);
        return hash;
    }
}
