using System.Text;
using AmberCrate.Core.Cards;
using AmberCrate.Core.Values;

namespace AmberCrate.Core.Catalogues;

/// <summary>Divides the lines of a layer into shards of a size that is quickly fetched and held in memory.</summary>
public static class Sharding
{
    /// <summary>How many lines a shard holds on average, at most.</summary>
    public const int LinesPerShard = 256;

    /// <summary>The cards of a catalogue, divided.</summary>
    public static IEnumerable<(int Lines, byte[] Content)> Divide(IReadOnlyCollection<AppCard> cards) =>
        Divide([.. cards.Select(card => (card.Id, CardJson.Write(card)))]);

    /// <summary>
    /// The content of every shard: JSON Lines, ordered by id. Which shard a line is in depends on nothing but its
    /// id and the number of shards, and that number is a power of two, so that it seldom changes.
    /// </summary>
    public static IEnumerable<(int Lines, byte[] Content)> Divide(IReadOnlyCollection<(AppId Id, byte[] Line)> lines)
    {
        var shards = 1;
        while (shards * LinesPerShard < lines.Count) shards *= 2;
        return lines
            .GroupBy(line => Place(line.Id) & (uint)(shards - 1))
            .OrderBy(shard => shard.Key)
            .Select(shard =>
                (shard.Count(), Join(shard.OrderBy(line => line.Id.Text, StringComparer.Ordinal).Select(line => line.Line))));
    }

    private static byte[] Join(IEnumerable<byte[]> lines)
    {
        using var content = new MemoryStream();
        foreach (var line in lines)
        {
            content.Write(line);
            content.WriteByte((byte)'\n');
        }

        return content.ToArray();
    }

    /// <summary>
    /// FNV-1a, 32 bits (Fowler, Noll, Vo): stable over machines and versions, which string hashes of the framework are not.
    /// </summary>
    private static uint Place(AppId id)
    {
        var hash = 2166136261u;
        foreach (var part in Encoding.ASCII.GetBytes(id.Text)) hash = unchecked((hash ^ part) * 16777619u);
        return hash;
    }
}
