namespace AmberCrate.Engine.Fetching;

/// <summary>What an address delivers.</summary>
/// <param name="stream">The bytes.</param>
/// <param name="owner">What must be released with the stream.</param>
public sealed class FetchedContent(Stream stream, IDisposable? owner) : IDisposable
{
    private Action<Exception>? _watcher;

    /// <summary>The bytes.</summary>
    public Stream Stream { get; private init; } = stream;

    /// <summary>The mark that a later request sends to ask for changes; null if there is none.</summary>
    public string? Mark { get; init; }

    /// <summary>Which byte of the whole the stream begins with.</summary>
    public long From { get; init; }

    /// <summary>How many bytes come; null where that is not said.</summary>
    public long? Length { get; init; }

    /// <summary>The same content, read through another stream.</summary>
    public FetchedContent Through(Func<Stream, Stream> wrap) =>
        new(wrap(Stream), this) { Mark = Mark, From = From, Length = Length, _watcher = Blame };

    /// <summary>The same content; its faults are reported to a listener that remembers them.</summary>
    public FetchedContent Watched(Action<Exception> watcher)
    {
        _watcher = watcher;
        return this;
    }

    /// <summary>Tells whoever has opened this that it is no good: reading it has failed, or it is not what was wanted.</summary>
    /// <param name="fault">One that <see cref="SourceFault.IsOfSource"/> accepts.</param>
    public void Blame(Exception fault) => _watcher?.Invoke(fault);

    /// <inheritdoc/>
    public void Dispose()
    {
        Stream.Dispose();
        owner?.Dispose();
    }
}
