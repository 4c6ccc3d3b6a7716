namespace AmberCrate.Engine.Fetching;

/// <summary>What an address delivers.</summary>
/// <param name="stream">The bytes.</param>
/// <param name="owner">What must be released with the stream.</param>
public sealed class FetchedContent(Stream stream, IDisposable? owner) : IDisposable
{
    /// <summary>The bytes.</summary>
    public Stream Stream { get; } = stream;

    /// <summary>A mark by which to ask later whether it has changed; null where there is none.</summary>
    public string? Mark { get; init; }

    /// <summary>Which byte of the whole the stream begins with.</summary>
    public long From { get; init; }

    /// <summary>How many bytes come; null where that is not said.</summary>
    public long? Length { get; init; }

    /// <inheritdoc/>
    public void Dispose()
    {
        Stream.Dispose();
        owner?.Dispose();
    }
}
