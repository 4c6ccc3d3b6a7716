using System.Buffers.Binary;
using System.Text;
using SharpCompress.Compressors.LZMA;

namespace AmberCrate.Engine.Archives;

/// <summary>
/// Reads the attributes of the files of a 7z archive from its header, after the public description of the format. The
/// library that decompresses the files does not tell the upper half of the attributes, where Unix permissions are.
/// </summary>
internal ref struct SevenZipAttributes
{
    private const int SignatureHeader = 32, MostHeader = 256 << 20;
    private const byte End = 0, Header = 1, ArchiveProperties = 2, AdditionalStreams = 3, MainStreams = 4, Files = 5, PackInfo = 6, UnpackInfo = 7, Size = 9, Crc = 10, Folder = 11, UnpackSize = 12;
    private const byte Names = 17, Attributes = 21, EncodedHeader = 23;
    private static ReadOnlySpan<byte> Lzma => [3, 1, 1];

    private ReadOnlySpan<byte> _left;

    private SevenZipAttributes(ReadOnlySpan<byte> header) => _left = header;

    /// <summary>The attributes by name. Names that have none are left out; so are all where the header is written in a way that is not known here.</summary>
    /// <param name="archive">The archive; its position is changed.</param>
    /// <exception cref="InvalidDataException">The header is damaged.</exception>
    public static IReadOnlyDictionary<string, uint> Read(Stream archive)
    {
        try
        {
            var start = new byte[SignatureHeader];
            archive.Position = 0;
            archive.ReadExactly(start);
            var (at, size) = (BinaryPrimitives.ReadInt64LittleEndian(start.AsSpan(12)), BinaryPrimitives.ReadInt64LittleEndian(start.AsSpan(20)));
            if (size == 0) return new Dictionary<string, uint>();
            if (at < 0 || size is < 0 or > MostHeader) throw new InvalidDataException("the header of the archive is damaged");
            var header = new byte[size];
            archive.Position = SignatureHeader + at;
            archive.ReadExactly(header);
            while (header.Length > 0 && header[0] == EncodedHeader)
            {
                if (new SevenZipAttributes(header.AsSpan(1)).Decode(archive) is not { } decoded) return new Dictionary<string, uint>();
                header = decoded;
            }

            return new SevenZipAttributes(header).Read();
        }
        catch (Exception fault) when (fault is ArgumentException or IndexOutOfRangeException or OverflowException)
        {
            throw new InvalidDataException("the header of the archive is damaged", fault);
        }
    }

    /// <summary>Decompresses a header that is itself compressed, always as one stream; null where not with LZMA.</summary>
    private byte[]? Decode(Stream archive)
    {
        Expect(PackInfo);
        var at = Number();
        Expect(1);
        Expect(Size);
        var packed = Number();
        while (Byte() is var kind and not End) PassDigests(kind);
        Expect(UnpackInfo);
        Expect(Folder);
        Expect(1);
        Expect(0);
        Expect(1);
        var flags = Byte();
        var isLzma = Take(flags & 0xF).SequenceEqual(Lzma);
        var settings = (flags & 0x20) != 0 ? Take((int)Number()).ToArray() : [];
        if (!isLzma) return null;
        Expect(UnpackSize);
        var header = new byte[Math.Min(Number(), MostHeader)];
        archive.Position = SignatureHeader + at;
        using var lzma = LzmaStream.Create(settings, archive, packed, header.Length, leaveOpen: true);
        lzma.ReadExactly(header);
        return header;
    }

    private void PassDigests(byte kind)
    {
        if (kind != Crc || Byte() == 0) throw new InvalidDataException("the header of the archive is written in a way that is not known here");
        Take(4);
    }

    private Dictionary<string, uint> Read()
    {
        var found = new Dictionary<string, uint>(StringComparer.Ordinal);
        Expect(Header);

        // What says how the files are packed is passed over: what is about the files themselves stands behind it.
        var files = Byte();
        if (files is ArchiveProperties or AdditionalStreams) return found;
        if (files == MainStreams && !PassStreams()) return found;
        if (files == MainStreams) files = Byte();
        if (files != Files) return found;
        var count = (int)Number();
        string[] names = [];
        uint?[] attributes = [];
        while (Byte() is var kind and not End)
        {
            var property = new SevenZipAttributes(Take(checked((int)Number())));
            if (kind == Names) names = property.ReadNames(count);
            else if (kind == Attributes) attributes = property.ReadAttributes(count);
        }

        for (var number = 0; number < Math.Min(names.Length, attributes.Length); number++)
        {
            if (attributes[number] is { } value) found[names[number]] = value;
        }

        return found;
    }

    /// <summary>Passes over the description of the streams; false where it is written in a way that is not known here.</summary>
    private bool PassStreams()
    {
        var streams = new SevenZipStreams(_left);
        if (streams.Length is not { } length) return false;
        Take(length);
        return true;
    }

    private string[] ReadNames(int count)
    {
        Expect(0);
        var names = new string[count];
        for (var at = 0; at < count; at++)
        {
            var length = 0;
            while (_left[length] != 0 || _left[length + 1] != 0) length += 2;
            names[at] = Encoding.Unicode.GetString(Take(length)).Replace('\\', '/');
            Take(2);
        }

        return names;
    }

    private uint?[] ReadAttributes(int count)
    {
        var all = Byte() != 0;
        var defined = all ? default : Take((count + 7) / 8);
        Expect(0);
        var attributes = new uint?[count];
        for (var at = 0; at < count; at++)
        {
            if (all || (defined[at / 8] & (0x80 >> (at % 8))) != 0) attributes[at] = BinaryPrimitives.ReadUInt32LittleEndian(Take(4));
        }

        return attributes;
    }

    private byte Byte() => Take(1)[0];

    private void Expect(byte value)
    {
        if (Byte() != value) throw new InvalidDataException("the header of the archive is written in a way that is not known here");
    }

    private long Number() => SevenZipStreams.Number(ref _left);

    private ReadOnlySpan<byte> Take(int length)
    {
        var taken = _left[..length];
        _left = _left[length..];
        return taken;
    }
}
