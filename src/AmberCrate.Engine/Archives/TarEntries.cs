using AmberCrate.Engine.Decoding;

namespace AmberCrate.Engine.Archives;

/// <summary>
/// Reads the entries of a tar stream: the old format, POSIX ustar and pax, and GNU with its long names; sparse files in all
/// four ways that GNU tar and others use. After POSIX.1-2017 (pax, "pax Interchange Format" and "ustar
/// Interchange Format") and the GNU tar manual ("Basic Tar Format", "Storing Sparse Files").
/// </summary>
internal static class TarEntries
{
    private const int MostExtra = 4 << 20;

    /// <summary>Reads the entries. Each content is to be read before the next entry is requested.</summary>
    /// <exception cref="InvalidDataException">The archive is damaged.</exception>
    /// <exception cref="EndOfStreamException">It ends in the middle.</exception>
    public static IEnumerable<ArchiveEntry> Read(Stream tar)
    {
        var block = new byte[TarHeader.BlockSize];
        var (everywhere, here) = (new PaxRecords(), new PaxRecords());
        string? longName = null, longLink = null;
        while (NextBlock(tar, block))
        {
            var header = new TarHeader(block);
            header.RequireChecksum();
            switch (header.Type)
            {
                case 'g':
                    everywhere.Add(Extra(tar, header.Size));
                    continue;
                case 'x' or 'X':
                    here.Add(Extra(tar, header.Size));
                    continue;
                case 'L':
                    longName = TarHeader.Text(Extra(tar, header.Size));
                    continue;
                case 'K':
                    longLink = TarHeader.Text(Extra(tar, header.Size));
                    continue;
                case 'V':
                    Pass(tar, header.Size);
                    continue;
            }

            var name = here.Get(PaxRecords.SparseName) ?? here.Get("path") ?? longName ?? everywhere.Get("path") ?? header.Name;
            var link = here.Get("linkpath") ?? longLink ?? everywhere.Get("linkpath") ?? header.LinkName;
            var kind = KindOf(header.Type, name);
            var size = kind == ArchiveEntryKind.File || header.HasContent ? here.Number("size") ?? header.Size : 0;
            var stored = new PartStream(tar, size);
            var content = kind != ArchiveEntryKind.File ? null : SparseMap(header, here, tar, stored) is { } map
                ? new SparseStream(stored, map.Parts, map.Size)
                : (Stream)stored;
            yield return new ArchiveEntry(
                name, kind, header.Mode, here.Time ?? everywhere.Time ?? header.Modified, link, content);
            stored.PassRest();
            Pass(tar, -size & (TarHeader.BlockSize - 1), isPadding: true);
            (here, longName, longLink) = (new PaxRecords(), null, null);
        }
    }

    private static ArchiveEntryKind KindOf(char type, string name) => type switch
    {
        '0' or '\0' or '7' or 'S' => name.EndsWith('/') ? ArchiveEntryKind.Folder : ArchiveEntryKind.File,
        '1' => ArchiveEntryKind.HardLink,
        '2' => ArchiveEntryKind.SymbolicLink,
        '5' or 'D' => ArchiveEntryKind.Folder,
        _ => ArchiveEntryKind.Special,
    };

    /// <summary>The next header; false at the end, which two empty blocks mark; one is enough.</summary>
    private static bool NextBlock(Stream tar, byte[] block)
    {
        var read = tar.ReadAtLeast(block, block.Length, throwOnEndOfStream: false);
        if (read == 0) return false;
        return read == block.Length
            ? block.AsSpan().ContainsAnyExcept((byte)0)
            : throw new EndOfStreamException("the archive ends in the middle of a header");
    }

    private static byte[] Extra(Stream tar, long size)
    {
        if (size > MostExtra) throw new InvalidDataException($"the description of an entry takes {size} bytes");
        var extra = new byte[size];
        tar.ReadExactly(extra);
        Pass(tar, -size & (TarHeader.BlockSize - 1), isPadding: true);
        return extra;
    }

    /// <summary>Where the parts of a sparse file go; null for a file that is not one.</summary>
    private static (IReadOnlyList<SparsePart> Parts, long Size)? SparseMap(
        TarHeader header, PaxRecords records, Stream tar, PartStream stored)
    {
        if (header.Type == 'S')
        {
            var parts = header.SparseParts(out var more).ToList();
            var size = header.SparseSize;
            var block = new byte[TarHeader.BlockSize];
            while (more)
            {
                tar.ReadExactly(block);
                parts.AddRange(new TarHeader(block).MoreSparseParts(out more));
            }

            return (parts, size);
        }

        if (records.Number("GNU.sparse.major") == 1)
        {
            var parts = new List<SparsePart>();
            var read = 0L;
            for (var left = Line(stored, ref read); left > 0; left--)
                parts.Add(new SparsePart(Line(stored, ref read), Line(stored, ref read)));
            stored.ReadExactly(new byte[-read & (TarHeader.BlockSize - 1)]);
            return (parts, records.Number("GNU.sparse.realsize")
                ?? throw new InvalidDataException("a sparse file without its size"));
        }

        return records.SparseParts is { } early
            ? (early, records.Number("GNU.sparse.size") ?? throw new InvalidDataException("a sparse file without its size"))
            : null;
    }

    /// <summary>A decimal number on a line of its own, as the map in front of a sparse file has them.</summary>
    private static long Line(PartStream stored, ref long read)
    {
        var number = 0L;
        var digit = new byte[1];
        while (true)
        {
            stored.ReadExactly(digit);
            read++;
            if (digit[0] == (byte)'\n') return number;
            if (digit[0] is < (byte)'0' or > (byte)'9' || number > long.MaxValue / 20)
                throw new InvalidDataException("the map of a sparse file is damaged");
            number = number * 10 + digit[0] - '0';
        }
    }

    private static void Pass(Stream tar, long length, bool isPadding = false)
    {
        new PartStream(tar, length).PassRest();
        if (!isPadding) new PartStream(tar, -length & (TarHeader.BlockSize - 1)).PassRest();
    }
}
