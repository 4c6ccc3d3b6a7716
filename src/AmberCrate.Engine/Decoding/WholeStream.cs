using System.IO.Hashing;
using AmberCrate.Engine.Host;

namespace AmberCrate.Engine.Decoding;

/// <summary>An entry's content, which must have the size and the CRC-32 that the archive says.</summary>
/// <param name="content">The content; it is closed.</param>
/// <param name="size">How many bytes it must have.</param>
/// <param name="crc">Its CRC-32.</param>
internal sealed class WholeStream(Stream content, long size, uint crc) : ReadOnlyStream
{
    private readonly Crc32 _crc = new();
    private long _read;

    /// <inheritdoc/>
    /// <exception cref="InvalidDataException">It is longer, shorter or different.</exception>
    public override int Read(Span<byte> buffer)
    {
        var read = content.Read(buffer);
        _read += read;
        _crc.Append(buffer[..read]);
        var hasEnded = read == 0 && buffer.Length > 0;
        if (_read > size || (hasEnded && _read < size))
            throw new InvalidDataException($"an entry of {size} bytes unpacks to another size");
        if (hasEnded && _crc.GetCurrentHashAsUInt32() != crc)
            throw new InvalidDataException("an entry's checksum (CRC-32) is wrong");
        return read;
    }

    /// <inheritdoc/>
    protected override void Dispose(bool disposing)
    {
        if (disposing) content.Dispose();
        base.Dispose(disposing);
    }
}
