namespace AmberCrate.Engine.Fetching;

/// <summary>
/// Where bytes come from. Sources are put around each other: one that limits, one that tries mirrors, one that tries again. All
/// of them keep to what docs/architecture.md says of sources, and pass the same tests.
/// </summary>
public interface IByteSource
{
    /// <summary>Opens an address.</summary>
    /// <param name="request">The request.</param>
    /// <param name="cancel">Cancels the operation.</param>
    /// <returns>The content; null where it is still what the request's mark says.</returns>
    /// <exception cref="Exception">It is not available: one that <see cref="SourceFault.IsOfSource"/> accepts.</exception>
    Task<FetchedContent?> OpenAsync(FetchRequest request, CancellationToken cancel);
}
