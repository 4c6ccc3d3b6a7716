namespace AmberCrate.Engine.Fetching;

/// <summary>Reads no faster than a bandwidth allows, which several sources may share.</summary>
/// <param name="inner">Where the bytes come from.</param>
/// <param name="bandwidth">The limit.</param>
internal sealed class LimitedSource(IByteSource inner, Bandwidth bandwidth) : IByteSource
{
    /// <inheritdoc/>
    public async Task<FetchedContent?> OpenAsync(FetchRequest request, CancellationToken cancel) =>
        (await inner.OpenAsync(request, cancel))?.Through(stream => new ThrottledStream(stream, bandwidth));
}
