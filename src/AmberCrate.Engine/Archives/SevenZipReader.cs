using AmberCrate.Core.Machine;

namespace AmberCrate.Engine.Archives;

/// <summary>
/// Reads the numbers in the header of a 7z archive. Whatever is counted takes at least one byte each, so that no count may be
/// larger than the rest of the header.
/// </summary>
/// <param name="header">The header.</param>
/// <param name="at">Where to begin.</param>
internal sealed class SevenZipReader(byte[] header, int at)
{
    /// <summary>What follows, as 7zFormat.txt numbers it.</summary>
    public const byte ArchiveProperties = 0x02, AdditionalStreams = 0x03, MainStreams = 0x04, Files = 0x05;

    /// <summary>Methods.</summary>
    public const ulong Copy = 0, Lzma = 0x030101, Lzma2 = 0x21, Ppmd = 0x030401, Aes = 0x06f10701, Deflate64 = 0x040109;

    private const byte PackInfo = 0x06, UnpackInfo = 0x07, SubStreams = 0x08, Sizes = 0x09, Digests = 0x0a, Folders = 0x0b,
        UnpackSizes = 0x0c, StreamCounts = 0x0d;

    /// <summary>
    /// The methods that the decoder knows: copy, delta, filters for machine code, LZMA, LZMA2, PPMd, Deflate and bzip2.
    /// </summary>
    public static IReadOnlySet<ulong> Known { get; } = new HashSet<ulong>
    {
        Copy, 0x03, 0x04, 0x05, 0x06, 0x07, 0x08, 0x09, 0x0a, 0x0b, Lzma, Lzma2, Ppmd, 0x040108, 0x040202, 0x03030103, 0x0303011b,
        0x03030205, 0x03030401, 0x03030501, 0x03030701, 0x03030805,
    };

    private int _at = at;

    /// <summary>The next byte.</summary>
    /// <exception cref="InvalidDataException">There is none.</exception>
    public byte Next() => _at < header.Length ? header[_at++] : throw Damaged();

    /// <summary>Passes over bytes.</summary>
    public void Skip(long count)
    {
        if (count > header.Length - _at) throw Damaged();
        _at += (int)count;
    }

    /// <summary>A number of things that each take a byte at least.</summary>
    /// <exception cref="InvalidDataException">The header is too short for so many.</exception>
    public int Count() => Number() is var count && count <= (ulong)(header.Length - _at) ? (int)count : throw Damaged();

    /// <summary>Reads where streams lie and how they are packed.</summary>
    /// <exception cref="InvalidDataException">It is damaged, or counts more than there is room for.</exception>
    public (long PackedAt, IReadOnlyList<long> PackedSizes, IReadOnlyList<SevenZipCoder> Coders,
        IReadOnlyList<long> UnpackedSizes)
        Streams()
    {
        var (packedAt, packed, folders, coders, unpacked) =
            (0L, new List<long>(), new List<int>(), new List<SevenZipCoder>(), new List<long>());
        bool[] haveDigests = [];
        for (byte id; (id = Next()) != 0;)
        {
            switch (id)
            {
                case PackInfo:
                    packedAt = Size();
                    var streams = Count();
                    Parts(part => Section(part, streams, packed));
                    break;
                case UnpackInfo:
                    Parts(part =>
                    {
                        if (part == Digests) haveDigests = SkipDigests(folders.Count);
                        else Unpacking(part, folders, coders, unpacked);
                    });
                    if (haveDigests.Length == 0) haveDigests = new bool[folders.Count];
                    break;
                case SubStreams:
                    SubStreamsOf(haveDigests);
                    break;
                default:
                    throw Damaged();
            }
        }

        return (packedAt, packed, coders, unpacked);
    }

    private void Parts(Action<byte> read)
    {
        for (byte part; (part = Next()) != 0;) read(part);
    }

    private void Section(byte part, int count, List<long> sizes)
    {
        if (part == Sizes) sizes.AddRange(Enumerable.Range(0, count).Select(_ => Size()));
        else if (part == Digests) SkipDigests(count);
        else throw Damaged();
    }

    private void Unpacking(byte part, List<int> folders, List<SevenZipCoder> coders, List<long> unpacked)
    {
        switch (part)
        {
            case Folders:
                var count = Count();
                if (Next() != 0) throw Damaged();
                for (var each = 0; each < count; each++) folders.Add(Folder(coders, folders.Count));
                break;
            case UnpackSizes:
                for (var each = folders.Sum(); each > 0; each--) unpacked.Add(Size());
                break;
            default:
                throw Damaged();
        }
    }

    /// <summary>Reads one folder's coders; says how many streams come out of them.</summary>
    private int Folder(List<SevenZipCoder> coders, int number)
    {
        const int HasStreams = 0x10, HasProperties = 0x20, LengthMask = 0x0f;
        var (inputs, outputs) = (0, 0);
        for (var count = Count(); count > 0; count--)
        {
            var flags = Next();
            var method = 0UL;
            for (var length = flags & LengthMask; length > 0; length--) method = method << 8 | Next();
            var hasStreams = (flags & HasStreams) != 0;
            inputs += hasStreams ? Count() : 1;
            outputs += hasStreams ? Count() : 1;
            var properties = new byte[(flags & HasProperties) != 0 ? Count() : 0];
            for (var each = 0; each < properties.Length; each++) properties[each] = Next();
            coders.Add(new SevenZipCoder(method, properties, number));
        }

        for (var pairs = outputs - 1; pairs > 0; pairs--)
        {
            Number();
            Number();
        }

        var open = inputs - outputs + 1;
        for (var each = 0; open > 1 && each < open; each++) Number();
        return outputs;
    }

    /// <summary>Reads how many files each folder holds, their sizes and digests.</summary>
    private void SubStreamsOf(bool[] haveDigests)
    {
        var counts = Enumerable.Repeat(1UL, haveDigests.Length).ToArray();
        var part = Next();
        if (part == StreamCounts)
        {
            for (var each = 0; each < counts.Length; each++) counts[each] = Number();
            part = Next();
        }

        if (counts.Any(count => count > UnpackingBudget.MostEntries)
            || counts.Aggregate(0UL, (sum, count) => sum + count) > UnpackingBudget.MostEntries)
            throw new RefusedEntryException($"more than {UnpackingBudget.MostEntries} entries");
        if (part == Sizes)
        {
            foreach (var count in counts)
            {
                for (var each = 1UL; each < count; each++) Number();
            }

            part = Next();
        }

        var unknown = counts.Zip(haveDigests).Where(folder => folder is not { First: 1, Second: true }).Sum(folder =>
            (int)folder.First);
        for (; part != 0; part = Next())
        {
            if (part != Digests) throw Damaged();
            SkipDigests(unknown);
        }
    }

    /// <summary>Passes over digests; says which are there.</summary>
    private bool[] SkipDigests(int count)
    {
        var defined = new bool[count];
        if (Next() != 0) Array.Fill(defined, true);
        else
        {
            for (var bits = 0; bits < count; bits += 8)
            {
                var mask = Next();
                for (var bit = 0; bit < 8 && bits + bit < count; bit++) defined[bits + bit] = (mask >> (7 - bit) & 1) != 0;
            }
        }

        Skip(4L * defined.Count(isThere => isThere));
        return defined;
    }

    private long Size() => Number() is <= long.MaxValue and var size ? (long)size : throw Damaged();

    /// <summary>
    /// A number: the leading ones of its first byte say how many bytes follow, the lowest first; the rest of the first byte
    /// is the highest.
    /// </summary>
    private ulong Number()
    {
        var first = Next();
        var value = 0UL;
        var mask = 0x80;
        for (var shift = 0; shift < 64; shift += 8, mask >>= 1)
        {
            if ((first & mask) == 0) return value | (ulong)(first & (mask - 1)) << shift;
            value |= (ulong)Next() << shift;
        }

        return value;
    }

    private static InvalidDataException Damaged() => new("its header is damaged");
}
