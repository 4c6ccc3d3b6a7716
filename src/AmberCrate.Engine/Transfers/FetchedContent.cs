namespace AmberCrate.Engine.Transfers;

/// <summary>What an address delivers.</summary>
/// <param name="stream">The bytes.</param>
/// <param name="mark">A mark by which to ask later whether it has changed; null where the server gives none.</param>
/// <param name="owner">What must be released with the stream.</param>
public sealed class FetchedContent(Stream stream, string? mark, IDisposable? owner) : IDisposable
{
    /// <summary>The bytes.</summary>
    public Stream Stream { get; } = stream;

    /// <summary>A mark by which to ask later whether it has changed; null where there is none.</summary>
    public string? Mark { get; } = mark;

    /// <inheritdoc/>
    public void Dispose()
    {
        Stream.Dispose();
        owner?.Dispose();
    }
}
