using System.Buffers;
using AmberCrate.Engine.Host;

namespace AmberCrate.Engine.Decoding;

/// <summary>The next bytes of another stream, and no more.</summary>
/// <param name="whole">The other stream; it is not closed.</param>
/// <param name="length">How many bytes.</param>
internal sealed class PartStream(Stream whole, long length) : ReadOnlyStream
{
    private readonly long _length = length;
    private long _left = length;

    /// <inheritdoc/>
    public override long Length => _length;

    /// <inheritdoc/>
    public override long Position
    {
        get => _length - _left;
        set => throw new NotSupportedException();
    }

    /// <summary>Passes over what has not been read.</summary>
    /// <exception cref="EndOfStreamException">The other stream ends before.</exception>
    public void PassRest()
    {
        if (_left == 0) return;
        var buffer = ArrayPool<byte>.Shared.Rent((int)Math.Min(_left, 1 << 16));
        while (Read(buffer) > 0)
        {
        }

        ArrayPool<byte>.Shared.Return(buffer);
    }

    /// <inheritdoc/>
    public override int Read(Span<byte> buffer)
    {
        if (_left == 0 || buffer.Length == 0) return 0;
        var read = whole.Read(buffer[..(int)Math.Min(buffer.Length, _left)]);
        if (read == 0) throw new EndOfStreamException("the file ends in the middle of a part");
        _left -= read;
        return read;
    }
}
