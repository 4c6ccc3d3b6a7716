using System.Globalization;
using System.Text;
using AmberCrate.Engine.Archives;

namespace AmberCrate.Engine.Tests.Archives;

/// <summary>What other programs write into tar archives, beyond what the framework's writer does.</summary>
public sealed class TarEntriesTests
{
    private const string Stored = "headtail";

    /// <summary>
    /// The same sparse file of 3,000 bytes, "head" at 0 and "tail" at 2,000, in the four ways in which programs write it.
    /// </summary>
    public static TheoryData<string> SparseWays => new("gnu", "pax 0.0", "pax 0.1", "pax 1.0");

    [Theory]
    [MemberData(nameof(SparseWays))]
    public void Sparse_files_come_out_with_their_holes(string way)
    {
        byte[] archive = way switch
        {
            "gnu" => [.. Gnu(), .. Padded(Stored)],
            "pax 0.0" => [.. Pax(
                "GNU.sparse.size=3000", "GNU.sparse.numblocks=2", "GNU.sparse.offset=0", "GNU.sparse.numbytes=4",
                "GNU.sparse.offset=2000", "GNU.sparse.numbytes=4"), .. Header("real", '0', 8), .. Padded(Stored)],
            "pax 0.1" =>
            [
                .. Pax("GNU.sparse.size=3000", "GNU.sparse.name=real", "GNU.sparse.map=0,4,2000,4"),
                .. Header("GNUSparseFile.1/real", '0', 8), .. Padded(Stored),
            ],
            _ =>
            [
                .. Pax("GNU.sparse.major=1", "GNU.sparse.minor=0", "GNU.sparse.name=real", "GNU.sparse.realsize=3000"),
                .. Header("GNUSparseFile.1/real", '0', 520), .. Padded("2\n0\n4\n2000\n4\n"), .. Padded(Stored),
            ],
        };
        var expected = new byte[3000];
        "head"u8.CopyTo(expected);
        "tail"u8.CopyTo(expected.AsSpan(2000));
        var entries = Entries([.. archive, .. Header("next", '0', 1), .. Padded("n"), .. new byte[1024]]);
        entries.Select(entry => entry.Name).ShouldBe(["real", "next"]);
        entries[0].Content.ShouldBe(expected);
        entries[1].Content.ShouldBe("n"u8.ToArray());
    }

    [Theory]
    [InlineData("GNU.sparse.map=0,4,2,4", "the map of a sparse file")]
    [InlineData("GNU.sparse.map=0,4,2998,4", "the map of a sparse file")]
    [InlineData("GNU.sparse.map=0,4,2000", "the map of a sparse file")]
    [InlineData("GNU.sparse.map=0,4,1000,400", "ends in the middle")]
    [InlineData("size=-1", "a pax header of the archive says size -1")]
    public void Maps_that_cannot_be_are_refused(string record, string says)
    {
        byte[] archive =
            [.. Pax("GNU.sparse.size=3000", record), .. Header("real", '0', 8), .. Padded(Stored), .. new byte[1024]];
        var fault = Record.Exception(() => Entries(archive)).ShouldNotBeNull();
        (fault is InvalidDataException or EndOfStreamException).ShouldBeTrue(fault.ToString());
        fault.Message.ShouldContain(says);
    }

    [Fact]
    public void Names_are_found_wherever_a_writer_puts_them()
    {
        var longName = string.Join('/', Enumerable.Repeat(new string('d', 60), 4));
        byte[] latin = [.. "caf"u8, 0xE9];
        byte[] archive =
        [
            .. Header("././@LongLink", 'L', longName.Length + 1), .. Padded(longName + "\0"), .. Header("cut", '0', 0),
            .. Header("././@LongLink", 'K', longName.Length + 1), .. Padded(longName + "\0"), .. Header("link", '2', 0),
            .. Pax("path=näme", "size=1", "mtime=1767225600.5"), .. Header("other", '0', 0), .. Padded("x"),
            .. Header("name", '0', 0, prefix: "folder"),
            .. Header(Encoding.Latin1.GetString(latin), '0', 0),
            .. Header("old-folder/", '\0', 0),
            .. Pax("comment=whatever", type: 'g'),
            .. Header("binary-size", '0', 3, binary: true), .. Padded("abc"),
        ];
        var entries = Entries(archive);
        entries.Select(entry => entry.Name)
            .ShouldBe([longName, "link", "näme", "folder/name", "café", "old-folder/", "binary-size"]);
        (entries[1].Kind, entries[1].LinkTarget).ShouldBe((ArchiveEntryKind.SymbolicLink, longName));
        (entries[2].Content.Length, entries[2].Modified).ShouldBe((1, new DateTimeOffset(2026, 1, 1, 0, 0, 0, TimeSpan.Zero)));
        entries[5].Kind.ShouldBe(ArchiveEntryKind.Folder);
        entries[6].Content.ShouldBe("abc"u8.ToArray());
    }

    [Fact]
    public void A_damaged_header_is_noticed_and_so_is_an_end_in_the_middle()
    {
        byte[] archive = [.. Header("a", '0', 600), .. new byte[1024], .. Header("b", '0', 0), .. new byte[1024]];
        Entries(archive).Count.ShouldBe(2);
        for (var at = 0; at < 512; at += 37) Should.Throw<InvalidDataException>(
            () => Entries([.. archive[..at], (byte)(archive[at] ^ 0x55), .. archive[(at + 1)..]]));
        for (var length = 1; length < 1536; length += 101)
        {
            if (length % 512 != 0) Should.Throw<EndOfStreamException>(() => Entries(archive[..length]));
        }
    }

    private static List<(string Name, ArchiveEntryKind Kind, DateTimeOffset Modified, string? LinkTarget, byte[] Content)>
        Entries(
        byte[] archive)
    {
        var entries = new List<(string, ArchiveEntryKind, DateTimeOffset, string?, byte[])>();
        foreach (var entry in TarEntries.Read(new MemoryStream(archive)))
        {
            using var content = new MemoryStream();
            entry.Content?.CopyTo(content);
            entries.Add((entry.Name, entry.Kind, entry.Modified, entry.LinkTarget, content.ToArray()));
        }

        return entries;
    }

    private static byte[] Gnu()
    {
        var header = Header("real", 'S', 8);
        foreach (var (at, number) in new[] { (386, 0), (398, 4), (410, 2000), (422, 4), (483, 3000) }) Octal(
            header, at, number, 12);
        Sum(header);
        return header;
    }

    private static byte[] Pax(params string[] records) => Pax(records, 'x');

    private static byte[] Pax(string record, char type) => Pax([record], type);

    private static byte[] Pax(string[] records, char type)
    {
        var text = string.Concat(records.Select(record =>
        {
            var bytes = Encoding.UTF8.GetByteCount(record) + 2;
            var length = bytes + $"{bytes}".Length;
            if ($"{length}".Length > $"{bytes}".Length) length++;
            return $"{length} {record}\n";
        }));
        return [.. Header("PaxHeader", type, Encoding.UTF8.GetByteCount(text)), .. Padded(text)];
    }

    private static byte[] Header(string name, char type, long size, string prefix = "", bool binary = false)
    {
        var header = new byte[512];
        Encoding.Latin1.GetBytes(name.AsSpan(0, Math.Min(name.Length, 100)), header);
        Octal(header, 100, 420, 8);
        Octal(header, 124, size, 12);
        if (binary) (header[124], header[134], header[135]) = (0x80, 0, (byte)size);
        if (binary) header.AsSpan(125, 10).Clear();
        header[156] = (byte)type;
        "ustar\000"u8.CopyTo(header.AsSpan(257));
        Encoding.ASCII.GetBytes(prefix, header.AsSpan(345));
        Sum(header);
        return header;
    }

    private static void Octal(byte[] header, int at, long number, int length) =>
        Encoding.ASCII.GetBytes(Convert.ToString(number, 8).PadLeft(length - 1, '0'), header.AsSpan(at));

    private static void Sum(byte[] header)
    {
        header.AsSpan(148, 8).Fill((byte)' ');
        Encoding.ASCII.GetBytes(
            string.Create(CultureInfo.InvariantCulture, $"{Convert.ToString(header.Sum(one => one), 8).PadLeft(6, '0')}\0 "),
            header.AsSpan(148));
    }

    private static byte[] Padded(string content)
    {
        var bytes = Encoding.UTF8.GetBytes(content);
        return [.. bytes, .. new byte[-bytes.Length & 511]];
    }
}
