namespace AmberCrate.Engine.Fetching;

/// <summary>Opens an address by its scheme: files here, everything else over the network.</summary>
/// <param name="files">Opens files.</param>
/// <param name="network">Opens http and https addresses.</param>
public sealed class SchemeSource(IByteSource files, IByteSource network) : IByteSource
{
    /// <inheritdoc/>
    public Task<FetchedContent?> OpenAsync(FetchRequest request, CancellationToken cancel) =>
        (request.Address.IsFile ? files : network).OpenAsync(request, cancel);
}
