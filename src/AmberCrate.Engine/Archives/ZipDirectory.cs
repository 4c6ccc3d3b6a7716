using System.Buffers.Binary;
using AmberCrate.Core.Machine;
using AmberCrate.Engine.Decoding;

namespace AmberCrate.Engine.Archives;

/// <summary>
/// Reads the central directory of a zip archive before the framework does: how many entries it claims, whether they can be
/// unpacked, and their times. After PKWARE's APPNOTE 6.3.10 (4.3.12 to 4.3.16, 4.5.3) and Info-ZIP's extra field for times
/// ("UT").
/// </summary>
internal static class ZipDirectory
{
    private const int EndSize = 22, LongestComment = 0xFFFF, LocatorSize = 20, LongEndSize = 56, HeaderSize = 46;
    private const uint EndSign = 0x06054b50, LocatorSign = 0x07064b50, LongEndSign = 0x06064b50, HeaderSign = 0x02014b50;
    private const ushort Encrypted = 1, TimeField = 0x5455, LongField = 1, InLongEnd = 0xFFFF;
    private const uint InLongField = 0xFFFFFFFF;

    /// <summary>The names that the methods have which other programs use and the framework does not know.</summary>
    private static readonly Dictionary<int, string> Foreign = new()
    {
        [1] = "Shrink", [6] = "Implode", [93] = "Zstandard", [95] = "xz", [97] = "WavPack",
        [98] = "PPMd", [99] = "AES",
    };

    /// <summary>Stored, Deflate and Deflate64, which the framework unpacks, and those of <see cref="ZipEntry"/>.</summary>
    private static readonly int[] Known = [0, 8, 9, ZipEntry.BZip2, ZipEntry.Lzma];

    /// <summary>
    /// The entries in the order of the directory. Empty if there is no directory, which the framework then reports.
    /// </summary>
    /// <param name="zip">The archive. It stands where it stood afterwards.</param>
    /// <exception cref="RefusedEntryException">It has too many entries.</exception>
    /// <exception cref="UnsupportedArchiveException">It cannot be unpacked here.</exception>
    /// <exception cref="InvalidDataException">What it claims cannot be.</exception>
    public static IReadOnlyList<ZipEntry> Read(Stream zip)
    {
        var before = zip.Position;
        if (Find(zip) is not { } found) return [];
        if (found.Entries > UnpackingBudget.MostEntries)
            throw new RefusedEntryException($"more than {UnpackingBudget.MostEntries} entries");
        if (found.Entries > found.Size / HeaderSize || found.Size > zip.Length)
            throw new InvalidDataException($"its directory of {found.Size} bytes cannot have {found.Entries} entries");
        zip.Position = zip.Length - found.FromEnd - found.Size;
        var entries = Entries(zip, found.Entries);
        zip.Position = before;
        return entries;
    }

    /// <summary>Finds the directory: how many entries it has, how long it is, and how far before the end of the file it
    /// ends.</summary>
    private static (long Entries, long Size, long FromEnd)? Find(Stream zip)
    {
        var tail = new byte[(int)Math.Min(zip.Length, EndSize + LongestComment + LocatorSize + LongEndSize)];
        zip.Position = zip.Length - tail.Length;
        zip.ReadExactly(tail);
        for (var at = tail.Length - EndSize; at >= 0; at--)
        {
            var end = tail.AsSpan(at);
            if (Number(end, 0) != EndSign || at + EndSize + Short(end, 20) > tail.Length) continue;
            var (entries, size) = ((long)Short(end, 10), (long)Number(end, 12));
            var fromEnd = (long)tail.Length - at;
            var atLong = at - LocatorSize - LongEndSize;
            var isLong = atLong >= 0 && Number(tail, at - LocatorSize) == LocatorSign && Number(tail, atLong) == LongEndSign;
            if (!isLong) return entries != InLongEnd && size != InLongField ? (entries, size, fromEnd) : null;
            return (Checked(tail, atLong + 32), Checked(tail, atLong + 40), tail.Length - atLong);
        }

        return null;
    }

    private static List<ZipEntry> Entries(Stream zip, long count)
    {
        var entries = new List<ZipEntry>();
        var header = new byte[HeaderSize];
        var rest = new byte[3 * 0xFFFF];
        for (var at = 0L; at < count; at++)
        {
            zip.ReadExactly(header);
            if (Number(header, 0) != HeaderSign) throw new InvalidDataException("its directory is damaged");
            if ((Short(header, 8) & Encrypted) != 0) throw new UnsupportedArchiveException("it is encrypted");
            var method = Short(header, 10);
            if (!Known.Contains(method))
                throw new UnsupportedArchiveException(
                    $"it is packed with {Foreign.GetValueOrDefault(method, $"method {method}")}, which is not supported here");
            var (name, extra, comment) = (Short(header, 28), Short(header, 30), Short(header, 32));
            zip.ReadExactly(rest, 0, name + extra + comment);
            var fields = rest.AsSpan(name, extra);
            var (packed, size, begins) = Longs(fields, Number(header, 20), Number(header, 24), Number(header, 42));
            entries.Add(new ZipEntry(method, TimeIn(fields), begins, packed, size)
            {
                Flags = Short(header, 8), Crc = Number(header, 16),
            });
        }

        return entries;
    }

    /// <summary>
    /// The packed size, the size and the place of an entry. Those that take more than 32 bits are in an extra field, in the order
    /// size, packed size, place (4.5.3).
    /// </summary>
    private static (long Packed, long Size, long At) Longs(ReadOnlySpan<byte> extra, uint packed, uint size, uint at)
    {
        var field = Field(extra, LongField);
        var longSize = Next(ref field, size);
        var longPacked = Next(ref field, packed);
        return (longPacked, longSize, Next(ref field, at));
    }

    private static long Next(ref ReadOnlySpan<byte> field, uint value)
    {
        if (value != InLongField || field.Length < sizeof(long)) return value;
        var number = Checked(field, 0);
        field = field[sizeof(long)..];
        return number;
    }

    /// <summary>The time of the last change in an entry's extra fields, in seconds since 1970; null for none.</summary>
    private static DateTimeOffset? TimeIn(ReadOnlySpan<byte> extra) =>
        Field(extra, TimeField) is { Length: >= 5 } time && (time[0] & 1) != 0
            ? DateTimeOffset.FromUnixTimeSeconds(BinaryPrimitives.ReadInt32LittleEndian(time[1..]))
            : null;

    /// <summary>An extra field's content; empty where the entry does not have the field.</summary>
    private static ReadOnlySpan<byte> Field(ReadOnlySpan<byte> extra, ushort kind)
    {
        while (extra.Length >= 4)
        {
            var length = Short(extra, 2);
            if (length + 4 > extra.Length) return default;
            if (Short(extra, 0) == kind) return extra.Slice(4, length);
            extra = extra[(length + 4)..];
        }

        return default;
    }

    private static ushort Short(ReadOnlySpan<byte> bytes, int at) => BinaryPrimitives.ReadUInt16LittleEndian(bytes[at..]);

    private static uint Number(ReadOnlySpan<byte> bytes, int at) => BinaryPrimitives.ReadUInt32LittleEndian(bytes[at..]);

    private static long Checked(ReadOnlySpan<byte> bytes, int at) =>
        BinaryPrimitives.ReadInt64LittleEndian(bytes[at..]) is >= 0 and var number
            ? number
            : throw new InvalidDataException("its directory is damaged");
}
