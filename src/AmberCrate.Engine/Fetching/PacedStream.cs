using AmberCrate.Engine.Host;

namespace AmberCrate.Engine.Fetching;

/// <summary>Reads from a stream, and gives up when the average speed is too low.</summary>
internal sealed class PacedStream(Stream inner, TimeSpan grace, TimeProvider clock) : ReadOnlyStream
{
    private readonly long _begun = clock.GetTimestamp();
    private long _read;

    public override async ValueTask<int> ReadAsync(Memory<byte> buffer, CancellationToken cancellationToken = default)
    {
        var read = await inner.ReadAsync(buffer, cancellationToken);
        _read += read;
        var took = clock.GetElapsedTime(_begun);
        if (read == 0 || took <= grace || _read >= took.TotalSeconds * PacedSource.LeastSpeed) return read;
        throw new TimeoutException($"the server is too slow: {_read} bytes in {took.TotalSeconds:0} seconds");
    }

    public override int Read(Span<byte> buffer) => throw new NotSupportedException("reads are asynchronous");

    protected override void Dispose(bool disposing)
    {
        if (disposing) inner.Dispose();
        base.Dispose(disposing);
    }
}
