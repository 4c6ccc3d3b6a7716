namespace AmberCrate.Engine.Fetching;

/// <summary>Opens addresses of files. The mark of a file is its length and the time of its last change.</summary>
public sealed class FileSource : IByteSource
{
    /// <inheritdoc/>
    public Task<FetchedContent?> OpenAsync(FetchRequest request, CancellationToken cancel)
    {
        cancel.ThrowIfCancellationRequested();
        var info = new FileInfo(request.Address.LocalPath);
        var mark = info.Exists ? $"file {info.Length} {info.LastWriteTimeUtc.Ticks}" : null;
        return Task.FromResult(mark is not null && mark == request.KnownMark ? null : Open(info.FullName, mark, request.From));
    }

    private static FetchedContent Open(string path, string? mark, long from)
    {
        var file = new FileStream(path, FileMode.Open, FileAccess.Read, FileShare.Read, 0, useAsync: false);
        file.Position = Math.Min(from, file.Length);
        return new FetchedContent(file, null) { Mark = mark, From = file.Position, Length = file.Length - file.Position };
    }
}
