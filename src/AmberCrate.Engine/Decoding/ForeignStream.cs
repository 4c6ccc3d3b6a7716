using AmberCrate.Engine.Host;

namespace AmberCrate.Engine.Decoding;

/// <summary>What a decoder of another maker delivers.</summary>
/// <param name="open">Opens the decoder.</param>
internal sealed class ForeignStream(Func<Stream> open) : ReadOnlyStream
{
    private readonly Stream _inner = ThirdPartyDecoder.Call(open);

    /// <inheritdoc/>
    /// <exception cref="InvalidDataException">The data are damaged.</exception>
    public override int Read(byte[] buffer, int offset, int count) =>
        ThirdPartyDecoder.Call(() => _inner.Read(buffer, offset, count));

    /// <inheritdoc/>
    /// <exception cref="InvalidDataException">The data are damaged.</exception>
    public override int Read(Span<byte> buffer)
    {
        try
        {
            return _inner.Read(buffer);
        }
        catch (Exception fault) when (fault is not (IOException or OperationCanceledException or OutOfMemoryException))
        {
            throw new InvalidDataException(fault.Message, fault);
        }
    }

    /// <summary>A decoder may read the rest when it is closed. If that is damaged, whoever comes next will see it.</summary>
    private void CloseInner()
    {
        try
        {
            _inner.Dispose();
        }
        catch (Exception fault) when (fault is not OutOfMemoryException)
        {
            // Nobody wants the rest.
        }
    }

    /// <inheritdoc/>
    protected override void Dispose(bool disposing)
    {
        if (disposing) CloseInner();
        base.Dispose(disposing);
    }
}
