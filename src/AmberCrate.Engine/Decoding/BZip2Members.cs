using AmberCrate.Engine.Host;
using SharpCompress.Compressors.BZip2;

namespace AmberCrate.Engine.Decoding;

/// <summary>
/// Unpacks a bzip2 file that may consist of several streams, one behind the other, as programs write it that use several
/// processors.
/// Each stream costs much to begin, so that many empty ones would take hours.
/// </summary>
/// <param name="packed">The file.</param>
internal sealed class BZip2Members(Stream packed) : ReadOnlyStream
{
    private const int MostEmpty = 16;

    private ForeignStream? _member;
    private bool _isEmpty, _ended;
    private int _empty;

    /// <inheritdoc/>
    /// <exception cref="InvalidDataException">The data are damaged.</exception>
    public override int Read(Span<byte> buffer)
    {
        while (!_ended && buffer.Length > 0)
        {
            _member ??= Open();
            var read = _member.Read(buffer);
            _isEmpty &= read == 0;
            if (read > 0) return read;
            _member.Dispose();
            _member = null;
            if (_isEmpty && ++_empty > MostEmpty) throw new InvalidDataException($"more than {MostEmpty} empty streams");
            _ended = packed.Position >= packed.Length;
        }

        return 0;
    }

    /// <inheritdoc/>
    protected override void Dispose(bool disposing)
    {
        if (disposing) _member?.Dispose();
        base.Dispose(disposing);
    }

    private ForeignStream Open()
    {
        _isEmpty = true;
        return new ForeignStream(() => BZip2Stream.Create(
            packed, SharpCompress.Compressors.CompressionMode.Decompress, decompressConcatenated: false, leaveOpen: true));
    }
}
