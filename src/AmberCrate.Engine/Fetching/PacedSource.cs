namespace AmberCrate.Engine.Fetching;

/// <summary>
/// Gives up on servers that send too slowly. Without this, a server that sends one byte now and then would keep a refresh busy
/// for ever: it is never silent for long enough to time out.
/// </summary>
/// <param name="inner">Where the bytes come from.</param>
/// <param name="grace">How long a download may be slow before it is measured.</param>
/// <param name="clock">The clock.</param>
internal sealed class PacedSource(IByteSource inner, TimeSpan grace, TimeProvider clock) : IByteSource
{
    /// <summary>The least average speed in bytes a second. A modem is faster.</summary>
    public const int LeastSpeed = 1024;

    /// <inheritdoc/>
    public async Task<FetchedContent?> OpenAsync(FetchRequest request, CancellationToken cancel) =>
        (await inner.OpenAsync(request, cancel))?.Through(stream => new PacedStream(stream, grace, clock));
}
