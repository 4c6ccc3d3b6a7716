using System.Buffers.Binary;
using System.Text;
using AmberCrate.Engine.Decoding;

namespace AmberCrate.Engine.Archives;

/// <summary>One header block of a tar archive.</summary>
/// <param name="block">Its 512 bytes.</param>
internal readonly struct TarHeader(byte[] block)
{
    /// <summary>The size of a block, in bytes.</summary>
    public const int BlockSize = 512;

    private const int ModeAt = 100, SizeAt = 124, ModifiedAt = 136, ChecksumAt = 148, TypeAt = 156, LinkAt = 157,
        MagicAt = 257, PrefixAt = 345;
    private const int SparseAt = 386, SparseCount = 4, SparseMoreAt = 482, SparseSizeAt = 483, MoreSparseCount = 21,
        MoreSparseMoreAt = 504, SparseNumber = 12;

    /// <summary>The letter for what the entry is.</summary>
    public char Type => (char)block[TypeAt];

    /// <summary>The name, as far as it fits into the block.</summary>
    public string Name
    {
        get
        {
            var name = Text(block.AsSpan(0, ModeAt));

            // In GNU's format, which has a blank in its magic, something else is at the place of the prefix.
            var isPosix = "ustar\0"u8.SequenceEqual(block.AsSpan(MagicAt, 6));
            return isPosix && block[PrefixAt] != 0 ? $"{Text(block.AsSpan(PrefixAt, 155))}/{name}" : name;
        }
    }

    /// <summary>Where a link leads, as far as it fits.</summary>
    public string LinkName => Text(block.AsSpan(LinkAt, 100));

    /// <summary>How many bytes follow.</summary>
    public long Size =>
        Number(SizeAt, 12) is var size and >= 0 ? size : throw new InvalidDataException("an entry with a size below nothing");

    /// <summary>Whether bytes follow although it is not a file.</summary>
    public bool HasContent => Type is not ('1' or '2' or '3' or '4' or '5' or '6') && Size > 0;

    /// <summary>Permissions, set-user-id and the like included.</summary>
    public UnixFileMode Mode => (UnixFileMode)(Number(ModeAt, 8) & 0xFFF);

    /// <summary>When it was last changed.</summary>
    public DateTimeOffset Modified => PaxRecords.TimeOf(Number(ModifiedAt, 12)) ?? DateTimeOffset.UnixEpoch;

    /// <summary>How large a sparse file is with its holes.</summary>
    public long SparseSize => Number(SparseSizeAt, 12);

    /// <summary>Refuses a block that is not a header, or damaged.</summary>
    /// <exception cref="InvalidDataException">Its checksum is wrong.</exception>
    public void RequireChecksum()
    {
        // The sum is taken as if its own field were blanks; some programs of the past took bytes as signed.
        var (unsigned, signed) = (8 * ' ', 8 * ' ');
        for (var at = 0; at < BlockSize; at++)
        {
            if (at is >= ChecksumAt and < TypeAt) continue;
            unsigned += block[at];
            signed += (sbyte)block[at];
        }

        var stated = Number(ChecksumAt, 8);
        if (stated != unsigned && stated != signed) throw new InvalidDataException("a header of the archive is damaged");
    }

    /// <summary>The first parts of a sparse file in GNU's old format.</summary>
    public IReadOnlyList<SparsePart> SparseParts(out bool more)
    {
        more = block[SparseMoreAt] != 0;
        return Parts(SparseAt, SparseCount);
    }

    /// <summary>The parts in a block that follows such a header.</summary>
    public IReadOnlyList<SparsePart> MoreSparseParts(out bool more)
    {
        more = block[MoreSparseMoreAt] != 0;
        return Parts(0, MoreSparseCount);
    }

    /// <summary>
    /// A text that ends at the first zero byte. What is not UTF-8 is read as Latin-1, which old archives are in.
    /// </summary>
    public static string Text(ReadOnlySpan<byte> field)
    {
        var end = field.IndexOf((byte)0);
        var bytes = end < 0 ? field : field[..end];
        return System.Text.Unicode.Utf8.IsValid(bytes) ? Encoding.UTF8.GetString(bytes) : Encoding.Latin1.GetString(bytes);
    }

    private List<SparsePart> Parts(int at, int most)
    {
        var parts = new List<SparsePart>();
        for (var part = 0; part < most && block[at + part * 2 * SparseNumber] != 0; part++)
            parts.Add(new SparsePart(
                Number(at + part * 2 * SparseNumber, SparseNumber), Number(at + (part * 2 + 1) * SparseNumber, SparseNumber)));
        return parts;
    }

    /// <summary>A number in octal digits, or, where the first bit is set, in binary.</summary>
    private long Number(int at, int length)
    {
        var field = block.AsSpan(at, length);
        if ((field[0] & 0x80) != 0)
        {
            // The last eight bytes are enough for what can be meant; the previous ones must only repeat the sign.
            var fill = (byte)((field[0] & 0x40) != 0 ? 0xFF : 0);
            if (length > 8 && (field[1..(length - 8)].ContainsAnyExcept(fill) || (field[0] | 0x80) != (fill | 0x80)))
                throw new InvalidDataException("a number in a header of the archive is too large");
            return length >= 8
                ? BinaryPrimitives.ReadInt64BigEndian(field[(length - 8)..]) & (length == 8 ? 0x7FFF_FFFF_FFFF_FFFF : -1)
                : 0;
        }

        var value = 0L;
        foreach (var digit in field.Trim(" \0"u8))
        {
            if (digit is < (byte)'0' or > (byte)'7')
                throw new InvalidDataException("a number in a header of the archive is damaged");
            value = value * 8 + digit - '0';
        }

        return value;
    }
}
