using System.IO.Hashing;
using System.Text;

namespace AmberCrate.Playhouse;

/// <summary>
/// Writes 7z archives without compression, after the public description of the format: enough for a reader to find names,
/// permissions, links and bytes where every writer puts them.
/// </summary>
public static class SevenZipForge
{
    private const byte End = 0, Header = 1, MainStreams = 4, Files = 5, PackInfo = 6, UnpackInfo = 7, SubStreams = 8, Size = 9,
        Crc = 10, Folder = 11, UnpackSize = 12, StreamCount = 13;
    private const byte EmptyStream = 14, EmptyFile = 15, Names = 17, Attributes = 21;
    private const uint HasUnixMode = 0x8000;

    /// <summary>Packs entries.</summary>
    /// <param name="entries">Names, Unix modes with the file type, and bytes.</param>
    public static byte[] Pack(IReadOnlyList<(string Name, uint Mode, byte[] Content)> entries)
    {
        var full = entries.Where(entry => entry.Content.Length > 0).ToList();
        var data = full.SelectMany(entry => entry.Content).ToArray();
        var header = new List<byte> { Header, MainStreams, PackInfo };
        Number(header, 0);
        Number(header, 1);
        header.Add(Size);
        Number(header, data.Length);
        header.AddRange([End, UnpackInfo, Folder, 1, 0, 1, 1, 0, UnpackSize]);
        Number(header, data.Length);
        header.AddRange([End, SubStreams, StreamCount]);
        Number(header, full.Count);
        header.Add(Size);
        foreach (var entry in full.SkipLast(1)) Number(header, entry.Content.Length);
        header.AddRange([Crc, 1]);
        foreach (var entry in full) header.AddRange(Crc32.Hash(entry.Content));
        header.AddRange([End, End, Files]);
        Number(header, entries.Count);
        Property(header, EmptyStream, Bits(entries.Select(entry => entry.Content.Length == 0)));
        Property(header, EmptyFile, Bits(entries.Where(entry => entry.Content.Length == 0).Select(_ => true)));
        Property(header, Names, [0, .. entries.SelectMany(entry => Encoding.Unicode.GetBytes(entry.Name + "\0"))]);
        Property(
            header, Attributes, [1, 0, .. entries.SelectMany(entry => BitConverter.GetBytes(entry.Mode << 16 | HasUnixMode))]);
        header.AddRange([End, End]);
        byte[] start =
        [
            .. BitConverter.GetBytes((long)data.Length), .. BitConverter.GetBytes((long)header.Count),
            .. Crc32.Hash(header.ToArray()),
        ];
        return [.. "7z"u8, 0xBC, 0xAF, 0x27, 0x1C, 0, 4, .. Crc32.Hash(start), .. start, .. data, .. header];
    }

    private static void Property(List<byte> header, byte kind, byte[] content)
    {
        if (content.Length == 0) return;
        header.Add(kind);
        Number(header, content.Length);
        header.AddRange(content);
    }

    private static byte[] Bits(IEnumerable<bool> bits) =>
        [.. bits.Chunk(8).Select(eight => (byte)eight.Select((bit, at) => bit ? 0x80 >> at : 0).Sum())];

    /// <summary>A number with its length in the leading bits of the first byte; this writes one byte or nine.</summary>
    private static void Number(List<byte> header, long number)
    {
        if (number >= 0x80) header.Add(0xFF);
        header.AddRange(number < 0x80 ? [(byte)number] : BitConverter.GetBytes(number));
    }
}
