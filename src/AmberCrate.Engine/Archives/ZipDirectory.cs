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
    private const ushort Encrypted = 1, TimeField = 0x5455, InLongEnd = 0xFFFF;
    private const uint InLongEndToo = 0xFFFFFFFF;

    /// <summary>The names that the methods have which other programs use and the framework does not know.</summary>
    private static readonly Dictionary<int, string> Foreign = new()
    {
        [1] = "Shrink", [6] = "Implode", [12] = "bzip2", [14] = "LZMA", [93] = "Zstandard", [95] = "xz", [97] = "WavPack",
        [98] = "PPMd", [99] = "AES",
    };

    private static readonly int[] Known = [0, 8, 9];

    /// <summary>
    /// The time of each entry by Info-ZIP's field, in the order of the directory; null where an entry has none. Empty where there
    /// is no directory to be found, which the framework then says.
    /// </summary>
    /// <param name="zip">The archive. It stands where it stood afterwards.</param>
    /// <exception cref="RefusedEntryException">It has too many entries.</exception>
    /// <exception cref="UnsupportedArchiveException">It cannot be unpacked here.</exception>
    /// <exception cref="InvalidDataException">What it claims cannot be.</exception>
    public static IReadOnlyList<DateTimeOffset?> Read(Stream zip)
    {
        var before = zip.Position;
        if (Find(zip) is not { } found) return [];
        if (found.Entries > UnpackingBudget.MostEntries)
            throw new RefusedEntryException($"more than {UnpackingBudget.MostEntries} entries");
        if (found.Entries > found.Size / HeaderSize || found.Size > zip.Length)
            throw new InvalidDataException($"its directory of {found.Size} bytes cannot have {found.Entries} entries");
        zip.Position = zip.Length - found.FromEnd - found.Size;
        var times = Times(zip, found.Entries);
        zip.Position = before;
        return times;
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
            if (!isLong) return entries != InLongEnd && size != InLongEndToo ? (entries, size, fromEnd) : null;
            return (Checked(tail, atLong + 32), Checked(tail, atLong + 40), tail.Length - atLong);
        }

        return null;
    }

    private static List<DateTimeOffset?> Times(Stream zip, long entries)
    {
        var times = new List<DateTimeOffset?>();
        var header = new byte[HeaderSize];
        var rest = new byte[3 * 0xFFFF];
        for (var at = 0L; at < entries; at++)
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
            times.Add(TimeIn(rest.AsSpan(name, extra)));
        }

        return times;
    }

    /// <summary>The time of the last change in an entry's extra fields, in seconds since 1970; null for none.</summary>
    private static DateTimeOffset? TimeIn(ReadOnlySpan<byte> extra)
    {
        while (extra.Length >= 4)
        {
            var length = Short(extra, 2);
            if (length + 4 > extra.Length) return null;
            if (Short(extra, 0) == TimeField && length >= 5 && (extra[4] & 1) != 0)
                return DateTimeOffset.FromUnixTimeSeconds(BinaryPrimitives.ReadInt32LittleEndian(extra[5..]));
            extra = extra[(length + 4)..];
        }

        return null;
    }

    private static ushort Short(ReadOnlySpan<byte> bytes, int at) => BinaryPrimitives.ReadUInt16LittleEndian(bytes[at..]);

    private static uint Number(ReadOnlySpan<byte> bytes, int at) => BinaryPrimitives.ReadUInt32LittleEndian(bytes[at..]);

    private static long Checked(ReadOnlySpan<byte> bytes, int at) =>
        BinaryPrimitives.ReadInt64LittleEndian(bytes[at..]) is >= 0 and var number
            ? number
            : throw new InvalidDataException("its directory is damaged");
}
