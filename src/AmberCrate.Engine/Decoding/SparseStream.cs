using AmberCrate.Engine.Host;

namespace AmberCrate.Engine.Decoding;

/// <summary>A sparse file with its holes filled.</summary>
internal sealed class SparseStream : ReadOnlyStream
{
    private readonly Stream _stored;
    private readonly IReadOnlyList<SparsePart> _parts;
    private readonly long _size;
    private long _position;
    private int _part;

    /// <summary>Begins to read one.</summary>
    /// <param name="stored">The parts that are stored, one behind the other.</param>
    /// <param name="parts">Where they go.</param>
    /// <param name="size">How large the file is with its holes, in bytes.</param>
    /// <exception cref="InvalidDataException">The parts overlap or leave the file.</exception>
    public SparseStream(Stream stored, IReadOnlyList<SparsePart> parts, long size)
    {
        (_stored, _parts, _size) = (stored, parts, size);
        var end = 0L;
        foreach (var part in parts)
        {
            if (part.Offset < end || part.Length < 0 || part.Offset > size - part.Length)
                throw new InvalidDataException("the map of a sparse file is damaged");
            end = part.Offset + part.Length;
        }
    }

    /// <inheritdoc/>
    public override int Read(Span<byte> buffer)
    {
        while (_part < _parts.Count && _parts[_part].Offset + _parts[_part].Length <= _position) _part++;
        var part = _part < _parts.Count ? _parts[_part] : new SparsePart(_size, 0);
        if (_position == _size || buffer.Length == 0) return 0;
        int read;
        if (_position < part.Offset)
        {
            read = (int)Math.Min(buffer.Length, part.Offset - _position);
            buffer[..read].Clear();
        }
        else
        {
            read = _stored.Read(buffer[..(int)Math.Min(buffer.Length, part.Offset + part.Length - _position)]);
            if (read == 0) throw new EndOfStreamException("the archive ends in the middle of a sparse file");
        }

        _position += read;
        return read;
    }
}
