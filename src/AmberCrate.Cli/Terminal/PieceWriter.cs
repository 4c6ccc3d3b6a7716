using System.Buffers;

namespace AmberCrate.Cli.Terminal;

/// <summary>Passes bytes on to a stream in pieces, so that a long document is never in memory as a whole.</summary>
/// <param name="stream">Where they go.</param>
internal sealed class PieceWriter(Stream stream) : IBufferWriter<byte>
{
    private const int PieceSize = 1 << 14;

    private byte[] _piece = new byte[PieceSize];
    private int _length;

    /// <inheritdoc/>
    public void Advance(int count) => _length += count;

    /// <inheritdoc/>
    public Memory<byte> GetMemory(int sizeHint = 0)
    {
        if (_piece.Length - _length < Math.Max(sizeHint, 1)) Flush();
        if (_piece.Length < sizeHint) _piece = new byte[sizeHint];
        return _piece.AsMemory(_length);
    }

    /// <inheritdoc/>
    public Span<byte> GetSpan(int sizeHint = 0) => GetMemory(sizeHint).Span;

    /// <summary>Passes on what is still here.</summary>
    public void Flush()
    {
        stream.Write(_piece.AsSpan(0, _length));
        _length = 0;
    }
}
