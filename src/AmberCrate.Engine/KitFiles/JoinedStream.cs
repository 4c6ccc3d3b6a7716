namespace AmberCrate.Engine.KitFiles;

/// <summary>Several files as one that can be read at any place. One thread at a time.</summary>
internal sealed class JoinedStream : Stream
{
    private readonly List<(FileStream File, long From)> _files = [];
    private long _at;

    /// <summary>Opens the files.</summary>
    public JoinedStream(IEnumerable<string> files)
    {
        foreach (var file in files)
        {
            var stream = new FileStream(file, FileMode.Open, FileAccess.Read, FileShare.Read, 0);
            _files.Add((stream, Length));
            Length += stream.Length;
        }
    }

    /// <inheritdoc/>
    public override long Length { get; }

    /// <inheritdoc/>
    public override long Position
    {
        get => _at;
        set => _at = value;
    }

    /// <inheritdoc/>
    public override bool CanRead => true;

    /// <inheritdoc/>
    public override bool CanSeek => true;

    /// <inheritdoc/>
    public override bool CanWrite => false;

    /// <inheritdoc/>
    public override int Read(Span<byte> buffer)
    {
        if (buffer.IsEmpty || _at >= Length) return 0;
        var (file, from) = _files[_files.FindLastIndex(one => one.From <= _at)];
        var read = RandomAccess.Read(file.SafeFileHandle, buffer, _at - from);
        _at += read;
        return read;
    }

    /// <inheritdoc/>
    public override int Read(byte[] buffer, int offset, int count) => Read(buffer.AsSpan(offset, count));

    /// <inheritdoc/>
    public override long Seek(long offset, SeekOrigin origin) => _at = origin switch
    {
        SeekOrigin.Begin => offset,
        SeekOrigin.Current => _at + offset,
        _ => Length + offset,
    };

    /// <inheritdoc/>
    public override void Flush()
    {
    }

    /// <inheritdoc/>
    public override void SetLength(long value) => throw new NotSupportedException();

    /// <inheritdoc/>
    public override void Write(byte[] buffer, int offset, int count) => throw new NotSupportedException();

    /// <inheritdoc/>
    protected override void Dispose(bool disposing)
    {
        if (disposing) _files.ForEach(one => one.File.Dispose());
        base.Dispose(disposing);
    }
}
