using AmberCrate.Engine.Host;

namespace AmberCrate.Engine.Fetching;

/// <summary>Reads from a stream no faster than a bandwidth allows.</summary>
internal sealed class ThrottledStream(Stream inner, Bandwidth bandwidth) : ReadOnlyStream
{
    public override async ValueTask<int> ReadAsync(Memory<byte> buffer, CancellationToken cancellationToken = default)
    {
        var read = await inner.ReadAsync(buffer[..Math.Min(buffer.Length, bandwidth.Portion)], cancellationToken);
        if (read > 0) await bandwidth.TakeAsync(read, cancellationToken);
        return read;
    }

    public override int Read(Span<byte> buffer) => throw new NotSupportedException("reads are asynchronous");
}
