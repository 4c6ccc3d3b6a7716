using AmberCrate.Engine.Host;

namespace AmberCrate.Engine.Fetching;

/// <summary>Reads from a stream, and gives up when no byte has come for a while.</summary>
internal sealed class TimeoutStream(Stream inner, TimeSpan timeout) : ReadOnlyStream
{
    public override async ValueTask<int> ReadAsync(Memory<byte> buffer, CancellationToken cancellationToken = default)
    {
        using var limit = CancellationTokenSource.CreateLinkedTokenSource(cancellationToken);
        limit.CancelAfter(timeout);
        try
        {
            return await inner.ReadAsync(buffer, limit.Token);
        }
        catch (OperationCanceledException late) when (!cancellationToken.IsCancellationRequested)
        {
            throw new TimeoutException($"the server has sent nothing for {timeout.TotalSeconds:0} seconds", late);
        }
        catch (HttpIOException early) when (early.HttpRequestError == HttpRequestError.ResponseEnded)
        {
            throw new HttpRequestException("the connection broke before everything had arrived", early);
        }
        catch (IOException broken)
        {
            // HttpRequestException, not IOException, so that callers can tell a broken connection from a bad disk.
            throw new HttpRequestException("the connection broke", broken);
        }
    }

    public override int Read(Span<byte> buffer) => throw new NotSupportedException("reads are asynchronous");

    protected override void Dispose(bool disposing)
    {
        if (disposing) inner.Dispose();
        base.Dispose(disposing);
    }
}
