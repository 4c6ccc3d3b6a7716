using System.Collections.Concurrent;
using System.Runtime.ExceptionServices;
using AmberCrate.Engine.Host;

namespace AmberCrate.Engine.Decoding;

/// <summary>
/// Reads a stream on a thread of its own, some buffers ahead, so that decompressing and writing go on at the same time.
/// </summary>
internal sealed class ReadAheadStream : ReadOnlyStream
{
    private const int BufferSize = 1 << 18;
    private const int Buffers = 4;

    private readonly Stream _inner;
    private readonly BlockingCollection<byte[]> _free = new(Buffers);
    private readonly BlockingCollection<(byte[] Bytes, int Length, ExceptionDispatchInfo? Fault)> _filled = new(Buffers + 1);
    private readonly CancellationTokenSource _stop = new();
    private readonly Thread _reader;
    private byte[] _current = [];
    private int _at;
    private int _length;
    private bool _ended;
    private bool _isDisposed;

    public ReadAheadStream(Stream inner)
    {
        _inner = inner;
        for (var count = 0; count < Buffers; count++) _free.Add(new byte[BufferSize]);
        _reader = new Thread(Fill) { IsBackground = true, Name = "read ahead" };
        _reader.Start();
    }

    public override int Read(Span<byte> buffer)
    {
        if (_at == _length && !Next()) return 0;
        var count = Math.Min(buffer.Length, _length - _at);
        _current.AsSpan(_at, count).CopyTo(buffer);
        _at += count;
        return count;
    }

    protected override void Dispose(bool disposing)
    {
        if (disposing && !_isDisposed)
        {
            _isDisposed = true;
            _stop.Cancel();
            _reader.Join();
            _free.Dispose();
            _filled.Dispose();
            _stop.Dispose();
            _inner.Dispose();
        }

        base.Dispose(disposing);
    }

    private bool Next()
    {
        if (_ended) return false;
        if (_current.Length > 0) _free.Add(_current);
        (_current, _length, var fault) = _filled.Take();
        _at = 0;
        _ended = _length == 0;
        fault?.Throw();
        return !_ended;
    }

    private void Fill()
    {
        try
        {
            for (var length = 1; length > 0;)
            {
                var buffer = _free.Take(_stop.Token);
                length = _inner.ReadAtLeast(buffer, buffer.Length, throwOnEndOfStream: false);
                _filled.Add((buffer, length, null), _stop.Token);
            }
        }
        catch (OperationCanceledException)
        {
            // The reader has gone.
        }
        catch (Exception fault)
        {
            _filled.Add(([], 0, ExceptionDispatchInfo.Capture(fault)));
        }
    }
}
