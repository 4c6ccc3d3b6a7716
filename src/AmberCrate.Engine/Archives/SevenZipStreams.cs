namespace AmberCrate.Engine.Archives;

/// <summary>The part of a 7z header that says how the files are packed, after the public description of the format: only its length is of interest here.</summary>
/// <param name="header">The header from behind the mark of this part.</param>
internal ref struct SevenZipStreams(ReadOnlySpan<byte> header)
{
    private const byte End = 0, PackInfo = 6, UnpackInfo = 7, SubStreams = 8, Size = 9, Crc = 10, Folder = 11, UnpackSize = 12, StreamCount = 13;

    private readonly ReadOnlySpan<byte> _all = header;
    private ReadOnlySpan<byte> _left = header;
    private int _folders;
    private readonly List<int> _outputs = [];
    private bool[] _digests = [];

    /// <summary>How many bytes it takes; null where it is written in a way that is not known here.</summary>
    public int? Length
    {
        get
        {
            while (true)
            {
                switch (Byte())
                {
                    case End: return _all.Length - _left.Length;
                    case PackInfo: PassPackInfo(); break;
                    case UnpackInfo when PassUnpackInfo(): break;
                    case SubStreams when PassSubStreams(): break;
                    default: return null;
                }
            }
        }
    }

    /// <summary>A number with its length in the leading bits of the first byte.</summary>
    public static long Number(ref ReadOnlySpan<byte> left)
    {
        var first = left[0];
        left = left[1..];
        long value = 0;
        var mask = 0x80;
        for (var at = 0; at < 8; at++, mask >>= 1)
        {
            if ((first & mask) == 0) return checked(value | (long)(first & (mask - 1)) << (8 * at));
            value |= (long)left[0] << (8 * at);
            left = left[1..];
        }

        return value >= 0 ? value : throw new InvalidDataException("the header of the archive is damaged");
    }

    private void PassPackInfo()
    {
        Number();
        var streams = Count();
        while (Byte() is var kind and not End)
        {
            if (kind == Size) PassNumbers(streams);
            else if (kind == Crc) PassDigests(streams);
        }
    }

    private bool PassUnpackInfo()
    {
        if (Byte() != Folder) return false;
        _folders = Count();
        _digests = new bool[_folders];
        if (Byte() != 0) return false;
        for (var folder = 0; folder < _folders; folder++) PassFolder();
        if (Byte() != UnpackSize) return false;
        PassNumbers(_outputs.Sum());
        while (Byte() is var kind and not End)
        {
            if (kind == Crc) _digests = PassDigests(_folders);
        }

        return true;
    }

    private void PassFolder()
    {
        var coders = Count();
        int inputs = 0, outputs = 0;
        for (var coder = 0; coder < coders; coder++)
        {
            var flags = Byte();
            Take(flags & 0xF);
            inputs += (flags & 0x10) != 0 ? Count() : 1;
            outputs += (flags & 0x10) != 0 ? Count() : 1;
            if ((flags & 0x20) != 0) Take(Count());
        }

        PassNumbers(2 * (outputs - 1));
        if (inputs - (outputs - 1) > 1) PassNumbers(inputs - (outputs - 1));
        _outputs.Add(outputs);
    }

    private bool PassSubStreams()
    {
        var counts = Enumerable.Repeat(1, _folders).ToArray();
        var kind = Byte();
        if (kind == StreamCount)
        {
            for (var folder = 0; folder < _folders; folder++) counts[folder] = Count();
            kind = Byte();
        }

        if (kind == Size)
        {
            PassNumbers(counts.Sum(count => Math.Max(0, count - 1)));
            kind = Byte();
        }

        if (kind == Crc)
        {
            // A folder of one file that has a digest already has none here.
            var digests = _digests;
            PassDigests(counts.Select((count, folder) => count == 1 && digests[folder] ? 0 : count).Sum());
            kind = Byte();
        }

        return kind == End;
    }

    private void PassNumbers(int count)
    {
        for (var at = 0; at < count; at++) Number();
    }

    /// <summary>Passes over a list of digests, and tells which of them are there.</summary>
    private bool[] PassDigests(int count)
    {
        var defined = new bool[count];
        if (Byte() != 0) Array.Fill(defined, true);
        else
        {
            var bits = Take((count + 7) / 8);
            for (var at = 0; at < count; at++) defined[at] = (bits[at / 8] & (0x80 >> (at % 8))) != 0;
        }

        Take(checked(4 * defined.Count(one => one)));
        return defined;
    }

    private int Count() => Number() is var count and >= 0 and <= int.MaxValue ? (int)count : throw new InvalidDataException("the header of the archive is damaged");

    private long Number() => Number(ref _left);

    private byte Byte() => Take(1)[0];

    private ReadOnlySpan<byte> Take(int length)
    {
        var taken = _left[..length];
        _left = _left[length..];
        return taken;
    }
}
