using System.Text;
using AmberCrate.Core.CardFiles;
using AmberCrate.Core.Cards;
using AmberCrate.Core.Values;

namespace AmberCrate.Core.Catalogues;

/// <summary>Divides the lines of a layer into parts of a size that is quickly fetched and held in memory.</summary>
public static class PartDivision
{
    /// <summary>How many lines a part holds on average, at most.</summary>
    public const int LinesPerPart = 256;

    /// <summary>The cards of a catalogue, divided.</summary>
    public static IEnumerable<(int Lines, byte[] Content)> Divide(IReadOnlyCollection<AppCard> cards) =>
        Divide([.. cards.Select(card => (card.Id, CardJson.Write(card)))]);

    /// <summary>
    /// The content of every part: JSON Lines, ordered by id. Which part a line is in depends on nothing but its
    /// id and the number of parts, and that number is a power of two, so that it seldom changes.
    /// </summary>
    public static IEnumerable<(int Lines, byte[] Content)> Divide(IReadOnlyCollection<(AppId Id, byte[] Line)> lines)
    {
        var parts = 1;
        while (parts * LinesPerPart < lines.Count) parts *= 2;
        return lines
            .GroupBy(line => Place(line.Id) & (uint)(parts - 1))
            .OrderBy(part => part.Key)
            .Select(part =>
                (part.Count(), Join(part.OrderBy(line => line.Id.Text, StringComparer.Ordinal).Select(line => line.Line))));
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
